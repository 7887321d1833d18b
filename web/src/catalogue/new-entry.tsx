import { useState } from "react";
import { usePutEntry } from "../api/catalogue";
import { useJobs } from "../api/queries";
import type { CatalogueEntries } from "../api/types";
import { Choice } from "../parts/choice";
import { BUTTON, FIELD, Frame, PRIMARY, Refusal } from "../parts/dialog";
import { plain } from "../words";
import { KINDS } from "./kinds";

const LIKE = { stress: "like 50 ksi or 355 MPa", length: "like 3/8 in or 10 mm", number: "like 0.45" } as const;

/** A draft of something the shipped tables have not: its values as the kind takes them, and where they come from. */
export function NewEntry({ kinds }: { kinds: CatalogueEntries["kinds"] }) {
  const [open, setOpen] = useState(false);
  const [kind, setKind] = useState("grade");
  const [values, setValues] = useState<Record<string, string>>({});
  const [name, setName] = useState("");
  const [source, setSource] = useState("");
  const [job, setJob] = useState("");
  const { data: jobs } = useJobs();
  const put = usePutEntry();
  const asked = kinds[kind] ?? [];
  const ready = name.trim() && source.trim() && asked.every((one) => !one.needed || values[one.name]?.trim());
  const turn = (next: string) => {
    setKind(next);
    setValues({});
    put.reset();
  };
  return (
    <Frame
      trigger="New entry"
      look={BUTTON}
      title="A new entry of the catalogue"
      words="A draft: nothing finds it until an administrator has approved it. What a name means stays for good."
      open={open}
      setOpen={setOpen}
    >
      <form
        className="space-y-2"
        onSubmit={(event) => {
          event.preventDefault();
          const said = Object.fromEntries(Object.entries(values).filter(([, value]) => value.trim()));
          put.mutate(
            { kind, name: name.trim(), values: said, source, job },
            {
              onSuccess: () => {
                setOpen(false);
                setValues({});
                setName("");
              },
            },
          );
        }}
      >
        <div className="flex gap-2">
          <Choice
            label="Kind"
            value={kind}
            options={Object.keys(kinds).map((one) => ({ value: one, words: KINDS[one]?.one ?? one }))}
            onChange={turn}
          />
          <input
            aria-label="Name"
            placeholder="its name, like HSA-60"
            className="min-w-0 flex-1 rounded border border-line bg-white px-2 py-1"
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </div>
        {asked.map((one) => (
          <div key={one.name} className="flex items-baseline gap-2 text-xs">
            <span className="w-24 shrink-0 font-semibold">
              {plain(one.name)}
              {one.needed && <span className="font-normal text-faint"> needed</span>}
            </span>
            <span className="min-w-0 flex-1">
              {one.choices.length ? (
                <Choice
                  label={one.name}
                  value={values[one.name] ?? ""}
                  options={[
                    ...(one.needed ? [] : [{ value: "", words: `as usual: ${one.choices[0]}` }]),
                    ...one.choices.map((value) => ({ value, words: value })),
                  ]}
                  onChange={(value) => setValues({ ...values, [one.name]: value })}
                />
              ) : (
                <input
                  aria-label={one.name}
                  placeholder={LIKE[one.quantity as keyof typeof LIKE] ?? ""}
                  className="w-full rounded border border-line bg-white px-2 py-1"
                  value={values[one.name] ?? ""}
                  onChange={(event) => setValues({ ...values, [one.name]: event.target.value })}
                />
              )}
              <span className="block text-[11px] text-faint">{one.help}</span>
            </span>
          </div>
        ))}
        <label className="block text-xs">
          Where it comes from
          <input
            className={FIELD}
            placeholder="a standard, a certificate, a maker’s table"
            value={source}
            onChange={(event) => setSource(event.target.value)}
          />
        </label>
        <div className="flex items-center gap-2 text-xs">
          <span>For</span>
          <Choice
            label="For"
            value={job}
            options={[
              { value: "", words: "all jobs" },
              ...(jobs ?? []).map((one) => ({ value: one.name, words: `${one.title} alone` })),
            ]}
            onChange={setJob}
          />
          <button type="submit" className={`${PRIMARY} ml-auto`} disabled={!ready || put.isPending}>
            Keep the draft
          </button>
        </div>
        <Refusal error={put.error} />
      </form>
    </Frame>
  );
}

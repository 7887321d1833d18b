import { useState } from "react";
import { useChooseMap, useKeepMap } from "../api/queries";
import type { Understood } from "../api/types";
import { Choice } from "../parts/choice";
import { BUTTON, FIELD, Frame, PRIMARY, Refusal } from "../parts/dialog";
import type { Pointing } from "./map-shape";

const FROM = {
  given: "changed here",
  sent: "the one beside the tables",
  saved: "this job's last",
  house: "the house's, which fits",
  proposed: "proposed from the files",
  "": "",
};

/** Where the map comes from, and others to take in its place: one of the house's with what does not fit, the job's last, or proposed anew. */
export function Maps({ job, number, found }: { job: string; number: number; found: Understood }) {
  const choose = useChooseMap(job, number);
  const { maps } = found.pointing as Pointing;
  const options = [
    { value: "", words: FROM[found.map_from] },
    ...maps.map((own) => ({
      value: `house ${own.name}`,
      words: `the house's ${own.name}: ${own.misfits.length ? `${own.misfits.length} misfit${own.misfits.length > 1 ? "s" : ""}` : "fits"}`,
    })),
    { value: "saved", words: "this job's last" },
  ];
  const misfits = maps.filter((own) => own.misfits.length);
  return (
    <div className="flex items-center gap-2">
      <span className="text-faint">Map:</span>
      <Choice
        label="Map"
        value=""
        options={options}
        onChange={(value) => {
          const [take, name = ""] = value.split(" ");
          if (take) choose.mutate({ take: take as "house" | "saved", name });
        }}
      />
      <button
        type="button"
        className={`${BUTTON} py-1`}
        disabled={choose.isPending}
        onClick={() => choose.mutate({ take: "proposed", name: "" })}
      >
        {choose.isPending ? "Looking …" : "Propose anew"}
      </button>
      <Keep found={found} />
      {misfits.length > 0 && (
        <details className="text-xs text-faint">
          <summary>
            {misfits.length} of the house's map{misfits.length > 1 ? "s" : ""} would not fit
          </summary>
          <ul className="absolute z-10 mt-1 max-h-60 max-w-lg overflow-y-auto rounded border border-line bg-sheet p-2 shadow-lg">
            {misfits.flatMap((own) =>
              own.misfits.map((words) => (
                <li key={own.name + words}>
                  <b>{own.name}</b> {words}
                </li>
              )),
            )}
          </ul>
        </details>
      )}
      <Refusal error={choose.error} />
    </div>
  );
}

function Keep({ found }: { found: Understood }) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  const [note, setNote] = useState("");
  const keep = useKeepMap();
  return (
    <Frame
      trigger="Keep for the house"
      look={`${BUTTON} py-1`}
      title="Keep this map for the house"
      words="By a name, above its jobs: it is proposed wherever it fits. Where there is one of that name, this is its next revision."
      open={open}
      setOpen={setOpen}
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          keep.mutate({ name, text: found.map, note }, { onSuccess: () => setOpen(false) });
        }}
      >
        <label className="block">
          <span className="text-faint">Name, like frame-report</span>
          <input required className={FIELD} value={name} onChange={(event) => setName(event.target.value)} />
        </label>
        <label className="mt-2 block">
          <span className="text-faint">What it is for</span>
          <input className={FIELD} value={note} onChange={(event) => setNote(event.target.value)} />
        </label>
        <Refusal error={keep.error} />
        <div className="mt-4 flex justify-end gap-2">
          <button type="button" className={BUTTON} onClick={() => setOpen(false)}>
            Leave it
          </button>
          <button type="submit" className={PRIMARY} disabled={!name.trim() || keep.isPending}>
            Keep it
          </button>
        </div>
      </form>
    </Frame>
  );
}

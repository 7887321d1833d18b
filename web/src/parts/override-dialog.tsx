import { useMutation, useQuery } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { type FormEvent, useEffect, useState } from "react";
import { useDebounce } from "use-debounce";
import { changeAndHold } from "../api/changes";
import { Refused } from "../api/client";
import { key } from "../api/keys";
import { clearOverride, setOverride, useRefresh } from "../api/queries";
import type { Connection, Override, Parameter, Status, View } from "../api/types";
import { SceneView } from "../drawing/scene-view";
import { plain, sentence } from "../words";
import { Choice } from "./choice";
import { BUTTON, FIELD, Frame, PRIMARY, Refusal } from "./dialog";
import { NO_REASON, Reason, reasoned } from "./reason";
import { StatusMark, Utilisation } from "./status";

/** Set one parameter: before and after show as it is typed; a reason keeps it. */
export function OverrideDialog({
  job,
  data,
  parameter,
  open,
  setOpen,
  trigger = "change",
  first,
}: {
  job: string;
  data: Connection;
  parameter: Parameter;
  open: boolean;
  setOpen: (open: boolean) => void;
  trigger?: string;
  first?: string; // what stands in the field when it opens
}) {
  const [then, setThen] = useState<View[]>(); // the drawing with what is typed
  const views = then ?? data.drawing?.views ?? [];
  return (
    <Frame
      trigger={trigger}
      beside={views.length > 0 && <Seen views={views} parameter={parameter.name} then={Boolean(then)} />}
      title={`${parameter.label} of ${data.connection}`}
      words={`${parameter.text ? `Now ${sentence(parameter.text)}, from ${parameter.source}. ` : ""}${parameter.help}`}
      open={open}
      setOpen={setOpen}
    >
      <Form job={job} data={data} parameter={parameter} first={first} drawn={setThen} done={() => setOpen(false)} />
    </Frame>
  );
}

function Form({
  job,
  data,
  parameter,
  first,
  drawn,
  done,
}: {
  job: string;
  data: Connection;
  parameter: Parameter;
  first?: string;
  drawn: (views?: View[]) => void;
  done: () => void;
}) {
  const [value, setValue] = useState(first ?? parameter.text);
  const [written] = useDebounce(value.trim(), 250);
  const settled = written === parameter.text ? "" : written;
  const [why, setWhy] = useState(NO_REASON);
  const [both, setBoth] = useState(false);
  const [hold, setHold] = useState(false);
  const climbed = parameter.name !== "standard" && data.parameters.some((p) => p.source.startsWith("rung"));
  const shared = (parameter.shared_with ?? []).join(" and ");
  const [version] = useState(data.version); // what the person saw: a change by somebody else meanwhile is told, not run over
  const refresh = useRefresh(job);
  const wanted = { parameter: parameter.name, value: settled, ...why, version, both };
  const said = (preview: boolean): Promise<Sides> => {
    const asked = { ...wanted, ...(preview ? NO_REASON : {}), preview };
    return hold ? changeAndHold(job, data.connection, asked) : setOverride(job, data.connection, asked);
  };
  const preview = useQuery({
    queryKey: key("preview", job, data.connection, parameter.name, settled, hold),
    queryFn: () => said(true),
    enabled: settled !== "",
    retry: false,
    refetchInterval: ({ state: { error } }) => (error instanceof Refused && error.status === 0 ? 2_000 : false),
  });
  const views = settled === "" ? undefined : preview.data?.drawing?.views;
  useEffect(() => drawn(views), [drawn, views]);
  const keep = useMutation({
    mutationFn: () => said(false),
    onSuccess: () => {
      refresh();
      done();
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    keep.mutate();
  };
  const asked = shared !== "" && !both;
  const ready = settled !== "" && preview.data && reasoned(why) && !asked && !keep.isPending;
  return (
    <form onSubmit={submit}>
      <div>
        <span className="text-faint">New value</span>
        {parameter.choices.length ? (
          <Choice
            label="New value"
            value={value}
            options={[
              ...(parameter.text ? [] : [{ value: "", words: "choose …" }]),
              ...parameter.choices.map((choice) => ({ value: choice, words: plain(choice) })),
            ]}
            onChange={setValue}
            className="mt-1 w-full"
          />
        ) : (
          <input value={value} onChange={(e) => setValue(e.target.value)} className={FIELD} aria-label="New value" />
        )}
      </div>
      <Comparison found={preview.data} error={preview.error} waiting={settled !== "" && preview.isFetching} />
      {climbed && (
        <label className="mt-2 flex gap-2 text-xs">
          <input type="checkbox" checked={hold} onChange={(e) => setHold(e.target.checked)} />
          <span>Hold the rest as it stands: what the ladder climbed becomes a decision too</span>
        </label>
      )}
      <Reason why={why} setWhy={setWhy} />
      {shared !== "" && (
        <label className="mt-3 flex gap-2 rounded bg-white p-3">
          <input type="checkbox" checked={both} onChange={(e) => setBoth(e.target.checked)} className="mt-1" />
          <span>
            The same bolts hold {shared} on the other side. Change it for both; for one alone they cannot differ.
          </span>
        </label>
      )}
      <Refusal error={keep.error} />
      <div className="mt-4 flex justify-end gap-2">
        <Dialog.Close className={BUTTON}>Leave as it is</Dialog.Close>
        <button type="submit" className={PRIMARY} disabled={!ready}>
          Keep override
        </button>
      </div>
    </form>
  );
}

type Sides = Pick<Override, "before" | "after"> & {
  drawing?: { views: View[] } | null; // of what would stand
  beside?: { connection: string; before: Side; after: Side }[]; // others of the joint that come out otherwise then
};
type Side = { [name: string]: unknown };

function Comparison({ found, error, waiting }: { found?: Sides; error: Error | null; waiting: boolean }) {
  if (error) return <p className="mt-3 rounded bg-white p-3 text-fail">{error.message}</p>;
  if (!found)
    return (
      <p className="mt-3 rounded bg-white p-3 text-faint">
        {waiting ? "Checking …" : "Type another value to see what it does."}
      </p>
    );
  return (
    <table className="mt-3 w-full rounded bg-white">
      <tbody>
        {(["before", "after"] as const).map((when) => {
          const side = found[when] as {
            value: string;
            status: Status;
            utilisation: number;
            check: string;
            action: string;
            reason: string;
            also?: string[];
          };
          return (
            <tr key={when} className="border-b border-line/60 align-top last:border-0">
              <td className="px-3 py-1.5 text-faint">{when}</td>
              <td className="whitespace-nowrap py-1.5 font-medium">{sentence(side.value)}</td>
              <td className="px-3 py-1.5">
                <StatusMark status={side.status} />
              </td>
              <td className="py-1.5 pr-3">
                {["pass", "fail"].includes(side.status) && <Utilisation value={side.utilisation} />}
                <div className="text-xs text-faint">
                  {sentence(side.reason) || (side.check && `${plain(side.check)} in ${side.action}`)}
                </div>
                {side.also && side.also.length > 0 && (
                  <div className="text-xs">also, as the next run: {side.also.map(plain).join("; ")}</div>
                )}
              </td>
            </tr>
          );
        })}
        {(found.beside ?? []).map((one) => (
          <tr key={one.connection} className="border-b border-line/60 last:border-0">
            <td className="px-3 py-1.5 text-faint">beside</td>
            <td className="py-1.5 font-medium">{one.connection}</td>
            <td className="px-3 py-1.5" colSpan={2}>
              <StatusMark status={one.before.status as Status} /> → <StatusMark status={one.after.status as Status} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** The drawing as it stands, or as it would be, what is changed marked on it. */
function Seen({ views, parameter, then }: { views: View[]; parameter: string; then: boolean }) {
  return (
    <div className="self-start rounded bg-white p-1">
      <p className="text-center text-xs text-faint">{then ? "as it would be" : "as it stands"}</p>
      {views.slice(0, 1).map((view) => (
        <SceneView key={view.title} view={view} width={428} height={400} active={parameter} />
      ))}
    </div>
  );
}

/** End an override: the connection goes back to its rule. */
export function ClearDialog({ job, override }: { job: string; override: Override }) {
  const [open, setOpen] = useState(false);
  const [reason, setReason] = useState("");
  const refresh = useRefresh(job);
  const clear = useMutation({
    mutationFn: () => clearOverride(job, override.id as number, reason),
    onSuccess: () => {
      refresh();
      setOpen(false);
    },
  });
  return (
    <Frame
      trigger="clear"
      title={`Clear the override of ${plain(override.parameter)}?`}
      words={`${override.author} set it to ${override.value}: ${[override.cause, override.reason].filter(Boolean).join(": ")}. The connection goes back to its rule and is sized again; the ledger keeps both words.`}
      open={open}
      setOpen={setOpen}
    >
      <textarea
        value={reason}
        onChange={(e) => setReason(e.target.value)}
        placeholder="why"
        rows={2}
        className={FIELD}
        aria-label="Reason"
      />
      <Refusal error={clear.error} />
      <div className="mt-4 flex justify-end gap-2">
        <Dialog.Close className={BUTTON}>Leave it</Dialog.Close>
        <button type="button" className={PRIMARY} onClick={() => clear.mutate()} disabled={clear.isPending}>
          Clear override
        </button>
      </div>
    </Frame>
  );
}

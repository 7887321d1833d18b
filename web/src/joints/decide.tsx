import { useMutation, useQuery } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useMemo, useState } from "react";
import { useDebounce } from "use-debounce";
import { useStandards } from "../api/changes";
import { decideForMany } from "../api/decisions";
import { key } from "../api/keys";
import { useRefresh } from "../api/queries";
import type { DecidedForMany, Row, Standards, Status } from "../api/types";
import { Choice } from "../parts/choice";
import { BUTTON, FIELD, Frame, PRIMARY, Refusal } from "../parts/dialog";
import { NO_REASON, Reason, reasoned } from "../parts/reason";
import { StatusMark, share } from "../parts/status";
import { plain, sentence } from "../words";

interface Parameter {
  name: string;
  label: string;
  choices: string[];
}

interface Wanted {
  name: string;
  value: string;
}

const NOT_HERE: Parameter = { name: "elsewhere", label: "Not here", choices: ["none", "by others"] };
const ACTIONS: Parameter = { name: "actions", label: "Actions, in place of the model's", choices: [] };

/** One decision for many connections: typed, worked out for all of them, kept with one reason. */
export function DecideDialog({ job, rows, done }: { job: string; rows: Row[]; done: () => void }) {
  const [open, setOpen] = useState(false);
  return (
    <Frame
      trigger="Change …"
      look={BUTTON}
      title={`Change ${rows.length} connection${rows.length > 1 ? "s" : ""}`}
      words="Worked out for each under all its combinations before anything is kept."
      open={open}
      setOpen={setOpen}
    >
      <Form
        job={job}
        rows={rows}
        done={() => {
          setOpen(false);
          done();
        }}
      />
    </Frame>
  );
}

const named = (wanted: Wanted[]): Record<string, string> =>
  Object.fromEntries(wanted.filter((w) => w.name && w.value.trim()).map((w) => [w.name, w.value.trim()]));

function Form({ job, rows, done }: { job: string; rows: Row[]; done: () => void }) {
  const offered = useOffered(job, rows);
  const [wanted, setWanted] = useState<Wanted[]>([{ name: "", value: "" }]);
  const [written] = useDebounce(wanted, 350);
  const settled = useMemo(() => named(written), [written]);
  const [why, setWhy] = useState(NO_REASON);
  const [skip, setSkip] = useState(false);
  const [both, setBoth] = useState(false);
  const refresh = useRefresh(job);
  const connections = useMemo(() => rows.map((row) => row.connection), [rows]);
  const asked = { connections, changes: settled, reason: why.reason, cause: why.cause, skip, both };
  const preview = useQuery({
    queryKey: key("decide", job, connections, settled, both),
    queryFn: () => decideForMany(job, { ...asked, reason: "", cause: "" }, true),
    enabled: Object.keys(settled).length > 0,
    retry: false,
  });
  const keep = useMutation({
    mutationFn: () => decideForMany(job, asked, false),
    onSuccess: () => {
      refresh();
      done();
    },
  });
  const seen = preview.data;
  const ready = seen && seen.connections > 0 && (skip || !seen.refused.length) && reasoned(why) && !keep.isPending;
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        keep.mutate();
      }}
    >
      {wanted.map((one, k) => (
        <Line
          key={k}
          one={one}
          offered={offered.filter((p) => p.name === one.name || !wanted.some((w) => w.name === p.name))}
          set={(next) => setWanted(wanted.map((w, n) => (n === k ? next : w)))}
        />
      ))}
      <button
        type="button"
        className="text-xs text-brass-dark hover:underline"
        onClick={() => setWanted([...wanted, { name: "", value: "" }])}
      >
        and another
      </button>
      <Outcome seen={seen} error={preview.error} waiting={preview.isFetching} />
      {(seen?.refused.length ?? 0) > 0 && (
        <>
          <Check on={both} set={setBoth}>
            Where the same bolts hold the beam opposite, change that too
          </Check>
          <Check on={skip} set={setSkip}>
            Leave out those of which it cannot be made
          </Check>
        </>
      )}
      <Reason why={why} setWhy={setWhy} />
      <Refusal error={keep.error} />
      <div className="mt-4 flex justify-end gap-2">
        <Dialog.Close className={BUTTON}>Leave them as they are</Dialog.Close>
        <button type="submit" className={PRIMARY} disabled={!ready}>
          Keep for {seen?.connections ?? 0}
        </button>
      </div>
    </form>
  );
}

function Check({ on, set, children }: { on: boolean; set: (on: boolean) => void; children: string }) {
  return (
    <label className="mt-2 flex gap-2">
      <input type="checkbox" checked={on} onChange={(event) => set(event.target.checked)} /> {children}
    </label>
  );
}

/** The parameters that the standards of these connections have in common, and what can be decided of any. */
function useOffered(job: string, rows: Row[]): Parameter[] {
  const standards: Standards["items"] = useStandards(job).data?.items ?? [];
  return useMemo(() => {
    const used = [...new Set(rows.map((row) => row.standard))].map((name) => standards.find((s) => s.name === name));
    const first = used[0];
    const common =
      first && used.every(Boolean)
        ? first.parameters.filter((p) => used.every((s) => s?.parameters.some((other) => other.name === p.name)))
        : [];
    const framings = [...new Set(rows.map((row) => row.framing))];
    const fitting = standards.filter((s) => framings.every((framing) => s.framings.includes(framing)));
    const standard = { name: "standard", label: "Standard", choices: fitting.map((s) => s.name) };
    return [...common, ...(fitting.length ? [standard] : []), ...(common.length ? [ACTIONS] : []), NOT_HERE];
  }, [rows, standards]);
}

function Line({ one, offered, set }: { one: Wanted; offered: Parameter[]; set: (next: Wanted) => void }) {
  const choices = offered.find((p) => p.name === one.name)?.choices ?? [];
  return (
    <div className="mb-1.5 grid grid-cols-2 gap-2">
      <Choice
        label="What to change"
        value={one.name}
        options={[{ value: "", words: "what …" }, ...offered.map((p) => ({ value: p.name, words: p.label }))]}
        onChange={(name) => set({ name, value: "" })}
        className="mt-1 w-full"
      />
      {choices.length ? (
        <Choice
          label="New value"
          value={one.value}
          options={[
            { value: "", words: "to …" },
            ...choices.map((choice) => ({ value: choice, words: plain(choice) })),
          ]}
          onChange={(value) => set({ ...one, value })}
          className="mt-1 w-full"
        />
      ) : (
        <input
          value={one.value}
          onChange={(event) => set({ ...one, value: event.target.value })}
          placeholder={one.name === "actions" ? "V = 26 kip, N = 5 kip" : "to …"}
          className={FIELD}
          aria-label="New value"
        />
      )}
    </div>
  );
}

function Outcome({ seen, error, waiting }: { seen?: DecidedForMany; error: Error | null; waiting: boolean }) {
  if (error) return <p className="mt-3 rounded bg-white p-3 text-fail">{error.message}</p>;
  if (!seen)
    return (
      <p className="mt-3 rounded bg-white p-3 text-faint">
        {waiting ? "Checking all of them …" : "Say what to change to see what it does."}
      </p>
    );
  const statuses = [
    ...new Set([...Object.keys(seen.counts.before ?? {}), ...Object.keys(seen.counts.after ?? {})]),
  ] as Status[];
  return (
    <div className="mt-3 rounded bg-white p-3">
      <table className="w-full">
        <tbody>
          {(["before", "after"] as const).map((when) => (
            <tr key={when}>
              <td className="w-16 text-faint">{when}</td>
              {statuses.map((status) => (
                <td key={status}>
                  {seen.counts[when]?.[status] ?? 0} <StatusMark status={status} />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {Object.entries(seen.stood).map(([name, values]) => (
        <p key={name} className="mt-1 text-xs text-faint">
          {plain(name)} now:{" "}
          {Object.entries(values)
            .map(([value, number]) => `${sentence(value) || "–"} (${number})`)
            .join(", ")}
        </p>
      ))}
      <ul className="mt-2 max-h-28 overflow-y-auto text-xs">
        {seen.worst.slice(0, 8).map((row) => (
          <li key={row.connection} className="flex justify-between gap-2">
            <span>
              <b>{row.connection}</b> {sentence(row.before.value)} → {sentence(row.after.value)}
              {(row.after.also ?? []).length > 0 && (
                <span className="text-faint">; also {(row.after.also ?? []).map(plain).join("; ")}</span>
              )}
            </span>
            <span className={row.after.status === "fail" ? "text-fail" : ""}>
              {share(row.before.utilisation)} →{" "}
              {row.after.status === "elsewhere" ? "elsewhere" : share(row.after.utilisation)}
              {row.after.over_target && " △ over the target"}
            </span>
          </li>
        ))}
        {seen.refused.slice(0, 8).map((row) => (
          <li key={row.connection} className="text-fail">
            <b>{row.connection}</b>: {sentence(row.why)}
          </li>
        ))}
      </ul>
      {seen.refused.length > 0 && <p className="mt-1 text-fail">Of {seen.refused.length} it cannot be made.</p>}
    </div>
  );
}

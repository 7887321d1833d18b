import { Dialog } from "radix-ui";
import { useMemo, useState } from "react";
import { Link } from "react-router";
import { useCombinations, useStartRun } from "../api/queries";
import type { Run } from "../api/types";
import { toConnection } from "../paths";
import { plain, sentence } from "../words";
import { Choice } from "./choice";
import { BUTTON, PRIMARY, Refusal } from "./dialog";
import { StatusMark, Utilisation } from "./status";

const PANEL =
  "fixed left-1/2 top-1/2 z-30 flex max-h-[88vh] w-[640px] -translate-x-1/2 -translate-y-1/2 flex-col rounded-lg bg-sheet p-5 text-ink shadow-2xl";

/** Look at the sizes as they stand by another set of combinations, or by some of one: no result changes. */
export function LookDialog({
  job,
  method,
  open,
  setOpen,
}: {
  job: string;
  method: string;
  open: boolean;
  setOpen: (open: boolean) => void;
}) {
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-rail/40" />
        <Dialog.Content className={PANEL}>
          <Dialog.Title className="text-base font-semibold">Look by other combinations</Dialog.Title>
          <Dialog.Description className="text-faint">
            Sizes are checked as they stand by a set, or by some of its combinations. No result is changed by it.
          </Dialog.Description>
          <Form job={job} method={method} done={() => setOpen(false)} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Form({ job, method, done }: { job: string; method: string; done: () => void }) {
  const { data } = useCombinations(job);
  const start = useStartRun(job);
  const own = useMemo(() => data?.combinations.filter((c) => c.method === method) ?? [], [data, method]);
  const sets = [...new Set(own.map((c) => c.set))];
  const [chosen, setChosen] = useState("");
  const [only, setOnly] = useState<Set<string>>(new Set());
  const set = chosen || sets[0] || "";
  if (!data) return <p className="mt-3 text-faint">Reading the combinations …</p>;
  if (!sets.length) return <p className="mt-3">The model has no combinations of {method}.</p>;
  const names = own.filter((c) => c.set === set).map((c) => c.name);
  const toggle = (name: string) => {
    const next = new Set(only);
    if (!next.delete(name)) next.add(name);
    setOnly(next);
  };
  return (
    <form
      className="mt-3 flex min-h-0 flex-col"
      onSubmit={(event) => {
        event.preventDefault();
        start.mutate({ combination_set: set, only: [...only] }, { onSuccess: done });
      }}
    >
      <div className="flex items-center gap-2">
        <Choice
          label="Set"
          value={set}
          options={sets.map((name) => ({ value: name, words: `set ${name}` }))}
          onChange={(name) => {
            setChosen(name);
            setOnly(new Set());
          }}
        />
        <span className="text-faint">
          {only.size ? `${only.size} of ${names.length} combinations` : `all ${names.length} combinations`}
        </span>
      </div>
      <ul
        className="mt-2 min-h-0 flex-1 overflow-y-auto rounded border border-line bg-white p-2"
        aria-label="Combinations"
      >
        {names.map((name) => (
          <li key={name}>
            <label className="flex items-center gap-2 py-0.5">
              <input type="checkbox" checked={only.has(name)} onChange={() => toggle(name)} />
              {name}
            </label>
          </li>
        ))}
      </ul>
      <Refusal error={start.error} />
      <div className="mt-4 flex justify-end gap-2">
        <Dialog.Close className={BUTTON}>Leave it</Dialog.Close>
        <button type="submit" className={PRIMARY} disabled={start.isPending}>
          Look
        </button>
      </div>
    </form>
  );
}

/** What the last look saw, the worst first. */
export function Looked({ job, run }: { job: string; run: Run }) {
  const [open, setOpen] = useState(false);
  const counts = Object.entries(run.counts ?? {}).map(([status, n]) => `${n} ${status}`);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className="block w-full rounded border border-white/40 py-1 text-center text-xs">
        what it saw
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-rail/40" />
        <Dialog.Content className={PANEL}>
          <Dialog.Title className="text-base font-semibold">
            By {run.only.length ? run.only.join(", ") : `set ${run.combination_set}`}: {counts.join(", ")}
          </Dialog.Title>
          <Dialog.Description className="text-faint">
            Sizes as they stood when {run.author} looked; no result was changed.
          </Dialog.Description>
          <table className="mt-3 block min-h-0 flex-1 overflow-y-auto text-left">
            <tbody>
              {run.found.map((one) => (
                <tr key={one.connection} className="border-t border-line/60">
                  <td className="py-1 pr-3">
                    <Link
                      className="font-semibold text-brass-dark underline-offset-2 hover:underline"
                      to={toConnection(job, one.connection)}
                      onClick={() => setOpen(false)}
                    >
                      {one.connection}
                    </Link>
                  </td>
                  <td className="pr-3">
                    <StatusMark status={one.status} />
                  </td>
                  <td className="pr-3">{one.utilisation > 0 && <Utilisation value={one.utilisation} />}</td>
                  <td className="pr-3">{plain(one.check) || sentence(one.reason)}</td>
                  <td>{one.action}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <div className="mt-4 flex justify-end">
            <Dialog.Close className={BUTTON}>Close</Dialog.Close>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

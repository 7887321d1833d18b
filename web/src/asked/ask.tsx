import { Dialog } from "radix-ui";
import { useState } from "react";
import { useAsk } from "../api/asked";
import { BUTTON, FIELD, Frame, LINK, PRIMARY, Refusal } from "../parts/dialog";

const BLANK = { title: "", words: "", to: "", due: "", holds: false };

/** Ask the engineer of record something of a connection, its joint or its member. */
export function AskDialog({ job, subjects }: { job: string; subjects: { kind: string; name: string }[] }) {
  const [open, setOpen] = useState(false);
  const [asked, setAsked] = useState(BLANK);
  const [of, setOf] = useState(0);
  const ask = useAsk(job);
  const set = (change: Partial<typeof BLANK>) => setAsked({ ...asked, ...change });
  const go = () =>
    ask.mutate(
      { ...asked, of: [subjects[of]] },
      {
        onSuccess: () => {
          setAsked(BLANK);
          setOpen(false);
        },
      },
    );
  return (
    <Frame
      trigger="ask …"
      look={LINK}
      title="Ask the engineer of record"
      words="It stands here and in Progress until it is closed; its list and BCF file are there."
      open={open}
      setOpen={setOpen}
    >
      <label className="block">
        <span className="text-faint">What is asked, in a line</span>
        <input className={FIELD} value={asked.title} maxLength={200} onChange={(e) => set({ title: e.target.value })} />
      </label>
      <label className="mt-2 block">
        <span className="text-faint">More of it</span>
        <textarea className={FIELD} rows={3} value={asked.words} onChange={(e) => set({ words: e.target.value })} />
      </label>
      <fieldset className="mt-2 flex flex-wrap gap-x-4">
        <legend className="text-faint">Of</legend>
        {subjects.map((one, k) => (
          <label key={`${one.kind} ${one.name}`} className="flex gap-1.5">
            <input type="radio" name="of" checked={of === k} onChange={() => setOf(k)} /> {one.kind} {one.name}
          </label>
        ))}
      </fieldset>
      <div className="mt-2 grid grid-cols-2 gap-3">
        <label className="block">
          <span className="text-faint">To</span>
          <input className={FIELD} value={asked.to} maxLength={200} onChange={(e) => set({ to: e.target.value })} />
        </label>
        <label className="block">
          <span className="text-faint">Due</span>
          <input className={FIELD} type="date" value={asked.due} onChange={(e) => set({ due: e.target.value })} />
        </label>
      </div>
      <label className="mt-2 flex gap-2">
        <input type="checkbox" checked={asked.holds} onChange={(e) => set({ holds: e.target.checked })} /> While it is
        open nothing that it is about can be released
      </label>
      <Refusal error={ask.error} />
      <div className="mt-4 flex justify-end gap-2">
        <Dialog.Close className={BUTTON}>Not now</Dialog.Close>
        <button type="button" className={PRIMARY} disabled={ask.isPending || !asked.title.trim()} onClick={go}>
          Ask
        </button>
      </div>
    </Frame>
  );
}

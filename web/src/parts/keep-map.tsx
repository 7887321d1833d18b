import { useState } from "react";
import { useKeepMap } from "../api/queries";
import { BUTTON, FIELD, Frame, PRIMARY, Refusal } from "./dialog";

/** Keep a map above the jobs, by a name. */
export function KeepMap({ text, words }: { text: string; words: string }) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  const [note, setNote] = useState("");
  const keep = useKeepMap();
  return (
    <Frame
      trigger="Keep for the house"
      look={`${BUTTON} py-1`}
      title="Keep this map for the house"
      words={`${words} Where there is one of that name, this is its next revision.`}
      open={open}
      setOpen={setOpen}
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          keep.mutate({ name, text, note }, { onSuccess: () => setOpen(false) });
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

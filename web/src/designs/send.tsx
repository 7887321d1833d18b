import { useState } from "react";
import { useSendDesign } from "../api/designs";
import type { WrittenDesign } from "../api/types";
import { BUTTON, Frame, PRIMARY, Refusal } from "../parts/dialog";

const TICKS = [
  { name: "people", words: "who made it and who signed it" },
  { name: "origin", words: "the job that it is from" },
  { name: "notes", words: "its note and tags" },
  { name: "files", words: "its files" },
] as const;

/** A design as one file for another service: what else goes along is ticked. */
export function Send({ design }: { design: WrittenDesign }) {
  const [open, setOpen] = useState(false);
  const [ticked, setTicked] = useState<Record<string, boolean>>({});
  const send = useSendDesign(design);
  return (
    <Frame
      trigger="Send …"
      look={BUTTON}
      title={`${design.called} as a file for another house`}
      words="What it is and fits, its name and title. Forces never go along; these only where you tick them. There it is a draft, whoever signed it here."
      open={open}
      setOpen={setOpen}
    >
      {TICKS.map(({ name, words }) => (
        <label key={name} className="flex items-center gap-2 py-0.5">
          <input
            type="checkbox"
            checked={Boolean(ticked[name])}
            onChange={(event) => setTicked({ ...ticked, [name]: event.target.checked })}
          />
          {words}
        </label>
      ))}
      <Refusal error={send.error} />
      <div className="mt-4 flex justify-end">
        <button
          type="button"
          className={PRIMARY}
          disabled={send.isPending}
          onClick={() => send.mutate(ticked, { onSuccess: () => setOpen(false) })}
        >
          Write the file
        </button>
      </div>
    </Frame>
  );
}

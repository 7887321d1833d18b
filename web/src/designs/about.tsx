import { useState } from "react";
import { useAboutDesign } from "../api/designs";
import type { WrittenDesign } from "../api/types";
import { BUTTON, FIELD, Frame, PRIMARY, Refusal } from "../parts/dialog";

const listed = (text: string) =>
  text
    .split(",")
    .map((one) => one.trim())
    .filter(Boolean);

/** What is said about a design: title, note, tags, who sees it; what it is stays. */
export function About({ design }: { design: WrittenDesign }) {
  const [open, setOpen] = useState(false);
  return (
    <Frame
      trigger="About it …"
      look={BUTTON}
      title={`About ${design.called}`}
      words="Its words and who sees it. What it is does not change: another version is its next revision."
      open={open}
      setOpen={setOpen}
    >
      {open && <Words design={design} done={() => setOpen(false)} />}
    </Frame>
  );
}

function Words({ design, done }: { design: WrittenDesign; done: () => void }) {
  const about = useAboutDesign(design);
  const [title, setTitle] = useState(design.title);
  const [note, setNote] = useState(design.note);
  const [tags, setTags] = useState(design.tags.join(", "));
  const [seen, setSeen] = useState(design.seen_by.join(", "));
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        about.mutate({ title, note, tags: listed(tags), seen_by: listed(seen) }, { onSuccess: done });
      }}
    >
      <label className="block">
        <span className="text-faint">Title</span>
        <input className={FIELD} value={title} onChange={(event) => setTitle(event.target.value)} />
      </label>
      <label className="mt-2 block">
        <span className="text-faint">Note</span>
        <textarea rows={3} className={FIELD} value={note} onChange={(event) => setNote(event.target.value)} />
      </label>
      <label className="mt-2 block">
        <span className="text-faint">Tags, with commas</span>
        <input className={FIELD} value={tags} onChange={(event) => setTags(event.target.value)} />
      </label>
      <label className="mt-2 block">
        <span className="text-faint">
          Who sees it once it is signed, like job:alder-street, role:engineer; all where empty
        </span>
        <input className={FIELD} value={seen} onChange={(event) => setSeen(event.target.value)} />
      </label>
      <Refusal error={about.error} />
      <div className="mt-4 flex justify-end">
        <button type="submit" className={PRIMARY} disabled={about.isPending}>
          Keep it
        </button>
      </div>
    </form>
  );
}

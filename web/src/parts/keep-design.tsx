import { useState } from "react";
import { Link } from "react-router";
import { useKeepDesign } from "../api/designs";
import { BUTTON, FIELD, Frame, PRIMARY, Refusal } from "./dialog";

/** Keep what is here as a design of the house: a draft, until an engineer signs it. */
export function KeepDesign({ of, look, first }: { of: Record<string, unknown>; look: string; first: string }) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState(slug(first));
  const [title, setTitle] = useState("");
  const [tags, setTags] = useState("");
  const keep = useKeepDesign();
  const kept = keep.data;
  return (
    <Frame
      trigger="House design"
      look={look}
      title="Keep it as a design of the house"
      words="Its members, sizes and angles go along; no job, no forces. It is your draft until an engineer signs it. Where there is one of that name, this is its next revision."
      open={open}
      setOpen={(now) => {
        setOpen(now);
        if (now) keep.reset();
      }}
    >
      {kept ? (
        <div>
          <p>
            Kept as{" "}
            <Link className="font-semibold underline" to={`/-/designs?name=${kept.name}&number=${kept.number}`}>
              {kept.called}
            </Link>
            : {kept.summary}.
          </p>
          <p className="mt-1 text-faint">
            {kept.why || kept.holds.map((one) => `${one.words} ${one.text}`).join(", ")}
            {kept.why ? "" : ", each alone."}
          </p>
          <div className="mt-4 flex justify-end">
            <button type="button" className={PRIMARY} onClick={() => setOpen(false)}>
              Good
            </button>
          </div>
        </div>
      ) : (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            const words = tags.split(",").map((tag) => tag.trim());
            keep.mutate({ name, body: { ...of, title, tags: words.filter(Boolean) } });
          }}
        >
          <label className="block">
            <span className="text-faint">Name, like tab-four-rows</span>
            <input required className={FIELD} value={name} onChange={(event) => setName(event.target.value)} />
          </label>
          <label className="mt-2 block">
            <span className="text-faint">Title</span>
            <input className={FIELD} value={title} onChange={(event) => setTitle(event.target.value)} />
          </label>
          <label className="mt-2 block">
            <span className="text-faint">Tags, with commas</span>
            <input className={FIELD} value={tags} onChange={(event) => setTags(event.target.value)} />
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
      )}
    </Frame>
  );
}

const slug = (text: string) =>
  text
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, "");

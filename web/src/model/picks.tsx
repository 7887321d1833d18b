import { useState } from "react";
import { Link } from "react-router";
import { usePutGroup } from "../api/queries";
import { BUTTON, FIELD, Frame, PRIMARY, Refusal } from "../parts/dialog";
import { to } from "../paths";

const STEP = "rounded border border-line bg-sheet px-2 py-1 hover:bg-paper";

/** What was picked, and what can be done with it. */
export function Picks({
  job,
  keys,
  allowed,
  onOnly,
  onHide,
  onNone,
}: {
  job: string;
  keys: string[];
  allowed: boolean;
  onOnly: () => void;
  onHide: () => void;
  onNone: () => void;
}) {
  return (
    <section
      aria-label="Picked"
      className="absolute bottom-20 left-1/2 flex -translate-x-1/2 items-center gap-2 rounded-md border border-brass bg-sheet px-3 py-2 shadow-lg"
    >
      <b>
        {keys.length} connection{keys.length > 1 ? "s" : ""} picked
      </b>
      <button type="button" className={STEP} onClick={onOnly}>
        show alone
      </button>
      <button type="button" className={STEP} onClick={onHide}>
        hide
      </button>
      {allowed && <GroupDialog job={job} keys={keys} />}
      <button type="button" aria-label="Pick nothing" className="px-1 text-faint" onClick={onNone}>
        ✕
      </button>
    </section>
  );
}

function GroupDialog({ job, keys }: { job: string; keys: string[] }) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  const put = usePutGroup(job);
  const close = (now: boolean) => {
    setOpen(now);
    put.reset();
  };
  return (
    <Frame
      trigger="make a group"
      look={STEP}
      title="A group of what is picked"
      words={`${keys.length} connections. A group that has this name already takes them in beside its own.`}
      open={open}
      setOpen={close}
    >
      {put.data ? (
        <>
          <p>
            {put.data.name} has {put.data.connections} connections now.
          </p>
          <div className="mt-4 flex justify-end gap-2">
            <button type="button" className={BUTTON} onClick={() => close(false)}>
              Stay here
            </button>
            <Link className={PRIMARY} to={`${to(job, "joints")}?group=${encodeURIComponent(put.data.name)}`}>
              Open it as a list
            </Link>
          </div>
        </>
      ) : (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            put.mutate({ name: name.trim(), connections: keys, how: "add" });
          }}
        >
          <label>
            <span className="text-faint">Name</span>
            <input
              className={FIELD}
              value={name}
              onChange={(e) => setName(e.target.value)}
              placeholder="stair core, east wing …"
              aria-label="Name"
            />
          </label>
          <Refusal error={put.error} />
          <div className="mt-4 flex justify-end gap-2">
            <button type="button" className={BUTTON} onClick={() => close(false)}>
              No
            </button>
            <button type="submit" className={PRIMARY} disabled={!name.trim() || put.isPending}>
              Make the group
            </button>
          </div>
        </form>
      )}
    </Frame>
  );
}

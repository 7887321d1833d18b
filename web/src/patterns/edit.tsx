import { useState } from "react";
import { useEditPattern } from "../api/queries";
import type { PatternInFull } from "../api/types";
import { BUTTON, FIELD, Frame, PRIMARY, Refusal } from "../parts/dialog";

type Joint = PatternInFull["members"][number];

/** Take a joint out of its pattern, or let it go back to where it was found to belong. */
export function OneJoint({ job, joint }: { job: string; joint: Joint }) {
  const [open, setOpen] = useState(false);
  const [reason, setReason] = useState("");
  const edit = useEditPattern(job);
  const close = (now: boolean) => {
    setOpen(now);
    edit.reset();
  };
  return (
    <Frame
      trigger={joint.said ? "✎" : "take out"}
      title={joint.said ? `${joint.joint} was ${joint.said}` : `Take joint ${joint.joint} out of this pattern?`}
      words={
        joint.said
          ? "It can go back to the pattern that it was found to belong to."
          : "It becomes one by itself, with its own peaks; nothing about its connections changes."
      }
      open={open}
      setOpen={close}
    >
      {!joint.said && <Reason value={reason} onChange={setReason} />}
      <Refusal error={edit.error} />
      <Answers
        no={() => close(false)}
        yes={joint.said ? "Let it go back" : "Take it out"}
        ready={!edit.isPending && Boolean(joint.said || reason.trim())}
        onYes={() =>
          edit.mutate(
            { joint: joint.joint, edit: joint.said ? null : { beside: "", reason } },
            { onSuccess: () => close(false) },
          )
        }
      />
    </Frame>
  );
}

/** Put another joint into a pattern. */
export function AddJoint({ job, beside }: { job: string; beside: string }) {
  const [open, setOpen] = useState(false);
  const [joint, setJoint] = useState("");
  const [reason, setReason] = useState("");
  const edit = useEditPattern(job);
  return (
    <Frame
      trigger="put another joint in"
      title="Put another joint into this pattern"
      words="It needs as many members of the same roles, pointing the same ways within 20 degrees; their sizes may differ."
      open={open}
      setOpen={setOpen}
    >
      <label className="block">
        <span className="text-faint">Joint</span>
        <input className={FIELD} value={joint} onChange={(e) => setJoint(e.target.value)} aria-label="Joint" />
      </label>
      <Reason value={reason} onChange={setReason} />
      <Refusal error={edit.error} />
      <Answers
        no={() => setOpen(false)}
        yes="Put it in"
        ready={!edit.isPending && Boolean(joint.trim() && reason.trim())}
        onYes={() =>
          edit.mutate(
            { joint: joint.trim(), edit: { beside, reason } },
            {
              onSuccess: () => {
                setOpen(false);
                setJoint("");
                setReason("");
              },
            },
          )
        }
      />
    </Frame>
  );
}

function Reason({ value, onChange }: { value: string; onChange: (value: string) => void }) {
  return (
    <label className="mt-3 block">
      <span className="text-faint">Reason (kept with your name)</span>
      <textarea
        className={FIELD}
        rows={2}
        value={value}
        onChange={(e) => onChange(e.target.value)}
        aria-label="Reason"
      />
    </label>
  );
}

function Answers({ no, yes, ready, onYes }: { no: () => void; yes: string; ready: boolean; onYes: () => void }) {
  return (
    <div className="mt-4 flex justify-end gap-2">
      <button type="button" className={BUTTON} onClick={no}>
        Leave it
      </button>
      <button type="button" className={PRIMARY} disabled={!ready} onClick={onYes}>
        {yes}
      </button>
    </div>
  );
}

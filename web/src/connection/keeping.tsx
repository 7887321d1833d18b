import { type FormEvent, useState } from "react";
import { useChange } from "../api/changes";
import type { Connection } from "../api/types";
import { FIELD, PRIMARY, Refusal } from "../parts/dialog";

/** Why several sizes, or those of another connection, are kept for this one; the side opposite too where the same bolts hold both. */
export function Reason({
  job,
  data,
  wanted,
  first = "",
  done,
}: {
  job: string;
  data: Connection;
  wanted: { changes?: Record<string, string>; take?: string };
  first?: string; // what the reason begins with
  done: () => void;
}) {
  const [reason, setReason] = useState("");
  const [both, setBoth] = useState(false);
  const change = useChange(job, data.connection, data.version);
  const shared = data.parameters.find((p) => p.shared_with?.length)?.shared_with?.join(" and ") ?? "";
  const submit = (event: FormEvent) => {
    event.preventDefault();
    change.mutate({ ...wanted, reason: `${first}${reason}`, both }, { onSuccess: done });
  };
  return (
    <form onSubmit={submit}>
      <label className="block">
        <span className="text-faint">Reason (kept with your name){first && `, after “${first.trim()}”`}</span>
        <textarea value={reason} onChange={(e) => setReason(e.target.value)} rows={2} className={FIELD} />
      </label>
      {shared && (
        <label className="mt-3 flex gap-2 rounded bg-white p-3">
          <input type="checkbox" checked={both} onChange={(e) => setBoth(e.target.checked)} className="mt-1" />
          <span>The same bolts hold {shared} on the other side: change theirs too.</span>
        </label>
      )}
      <Refusal error={change.error} />
      <div className="mt-4 flex justify-end">
        <button type="submit" className={PRIMARY} disabled={!reason.trim() || change.isPending}>
          Keep it
        </button>
      </div>
    </form>
  );
}

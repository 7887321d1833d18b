import { useCauses } from "../api/decisions";
import { Choice } from "./choice";
import { FIELD } from "./dialog";

export interface Why {
  cause: string;
  reason: string;
}

export const NO_REASON: Why = { cause: "", reason: "" };

/** Whether there is a reason: one of the shop's list, or words. */
export const reasoned = ({ cause, reason }: Why) => cause !== "" || reason.trim() !== "";

/** Why it is decided: one of the shop's list, words of one's own, or both. */
export function Reason({ why, setWhy }: { why: Why; setWhy: (why: Why) => void }) {
  const causes = useCauses().data ?? [];
  return (
    <div className="mt-3">
      <span className="text-faint">Reason (kept with your name)</span>
      <Choice
        label="Of the shop’s list"
        value={why.cause}
        options={[{ value: "", words: "in words only" }, ...causes.map((cause) => ({ value: cause, words: cause }))]}
        onChange={(cause) => setWhy({ ...why, cause })}
        className="mt-1 w-full"
      />
      <textarea
        value={why.reason}
        onChange={(event) => setWhy({ ...why, reason: event.target.value })}
        rows={2}
        className={FIELD}
        aria-label="Reason"
      />
    </div>
  );
}

import { useState } from "react";
import { type Text, useHouse, usePutHouse, useReviewHouse } from "../api/rules";
import { BUTTON, FIELD, Refusal } from "../parts/dialog";

const MARKS = { draft: "○ draft", approved: "✓ approved", retired: "– retired" } as const;

/** Rulebooks above the jobs: revisions, who approved them, which jobs stand on them. */
export function House({
  given,
  sound,
  writes,
  admin,
}: {
  given: Text;
  sound: boolean;
  writes: boolean;
  admin: boolean;
}) {
  const { data, error } = useHouse(true);
  const review = useReviewHouse();
  const put = usePutHouse();
  const [name, setName] = useState("");
  if (error) return <Refusal error={error} />;
  return (
    <div className="text-xs">
      <p className="mb-2 text-faint">
        A rulebook of the house is kept above the jobs. One stands on it by <code>inherits: name R1</code> and says only
        what is different.
      </p>
      <Refusal error={review.error ?? put.error} />
      <ul>
        {data?.map((one) => (
          <li key={one.called} className="flex items-baseline gap-2 border-b border-line/60 py-1.5">
            <span className="min-w-0 flex-1">
              <b>{one.called}</b> {one.note}
              <span className="block text-faint">
                by {one.author}
                {one.reviewer ? `, ${one.state} by ${one.reviewer}` : ""}
                {one.inherits ? `, on ${one.inherits}` : ""}
                {one.jobs.length ? `; jobs: ${one.jobs.join(", ")}` : ""}
              </span>
            </span>
            <span className={one.state === "approved" ? "text-pass" : "text-faint"}>{MARKS[one.state]}</span>
            {admin && one.state !== "retired" && (
              <button
                type="button"
                className="text-brass-dark underline-offset-2 hover:underline"
                onClick={() => review.mutate({ ...one, state: one.state === "draft" ? "approved" : "retired" })}
              >
                {one.state === "draft" ? "approve" : "retire"}
              </button>
            )}
          </li>
        ))}
      </ul>
      {data?.length === 0 && <p className="text-faint">The house has none yet.</p>}
      {writes && (
        <form
          className="mt-4 flex items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            put.mutate({ name, given, note: "" }, { onSuccess: () => setName("") });
          }}
        >
          <label className="flex-1">
            Keep what is written here for the house, as a draft called
            <input
              className={FIELD}
              value={name}
              placeholder="shop-practice"
              onChange={(e) => setName(e.target.value)}
            />
          </label>
          <button type="submit" className={BUTTON} disabled={!name || !sound || put.isPending}>
            Keep
          </button>
        </form>
      )}
    </div>
  );
}

import { useReviewEntry } from "../api/catalogue";
import type { CatalogueEntry } from "../api/types";
import { LINK, Refusal } from "../parts/dialog";
import { plain } from "../words";

const MARKS = { draft: "○ draft", approved: "✓ approved", retired: "– retired" } as const;
const COLOURS = { draft: "text-unchecked", approved: "text-pass", retired: "text-faint" } as const;

/** The entries of one kind: what each is, where it comes from, how it stands. */
export function Entries({ items, me }: { items: CatalogueEntry[]; me?: { name: string; admin: boolean } }) {
  const review = useReviewEntry();
  return (
    <>
      <table className="w-full text-xs">
        <thead className="text-left text-faint">
          <tr className="border-b border-line">
            <th className="w-32 py-1 font-normal">name</th>
            <th className="font-normal">values</th>
            <th className="w-60 font-normal">where it comes from</th>
            <th className="w-24 font-normal">for</th>
            <th className="w-44 font-normal">state</th>
            <th className="w-24 font-normal">
              <span className="sr-only">what can be done</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {items.map((entry) => (
            <tr key={entry.name} className="border-b border-line/60 align-top">
              <td className="py-1 font-semibold">{entry.name}</td>
              <td className="py-1 pr-3">
                {Object.entries(entry.values).map(([name, value]) => (
                  <span key={name} className="mr-3 inline-block">
                    <span className="text-faint">{plain(name)}</span> {said(value)}
                  </span>
                ))}
              </td>
              <td className="py-1 pr-3">
                {entry.source} <span className="text-faint">({entry.author})</span>
              </td>
              <td className="py-1">{entry.job || "all jobs"}</td>
              <td className={`py-1 ${COLOURS[entry.state]}`}>
                {MARKS[entry.state]}
                {entry.reviewer && (
                  <span className="block text-faint">
                    by {entry.reviewer} {entry.reviewed.slice(0, 10)}
                  </span>
                )}
              </td>
              <td className="py-1 text-right">
                {me?.admin && entry.state !== "retired" && (
                  <button
                    type="button"
                    className={LINK}
                    disabled={review.isPending}
                    onClick={() => review.mutate({ entry, state: entry.state === "draft" ? "approved" : "retired" })}
                  >
                    {entry.state === "draft" ? "approve" : "retire"}
                  </button>
                )}
                {entry.state === "draft" && (me?.admin || me?.name === entry.author) && (
                  <button
                    type="button"
                    className={LINK}
                    disabled={review.isPending}
                    onClick={() => review.mutate({ entry, state: null })}
                  >
                    take away
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Refusal error={review.error} />
    </>
  );
}

/** A value as it was typed; steps of a grade one after the other. */
function said(value: unknown): string {
  if (!Array.isArray(value)) return String(value);
  return value.map((step) => `${step.to}: ${step.Fy}: ${step.Fu}`).join("; ");
}

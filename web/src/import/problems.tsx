import type { Problem } from "../api/client";

/** What is wrong with what was sent, each at its place. */
export function Problems({ problems }: { problems: Problem[] }) {
  if (!problems.length) return null;
  return (
    <ul
      className="mb-4 max-h-60 overflow-y-auto rounded border border-fail/40 bg-sheet px-3 py-1"
      aria-label="What is wrong"
    >
      {problems.map((p) => (
        <li key={`${p.file}${p.row}${p.column}${p.message}`} className="border-line/60 py-1 not-first:border-t">
          <span className="font-medium">
            {p.file}
            {p.row ? ` ${p.file === "the map" ? "line" : "row"} ${p.row}` : ""}
            {p.column ? `, ${p.column}` : ""}:
          </span>{" "}
          {p.message}
        </li>
      ))}
    </ul>
  );
}

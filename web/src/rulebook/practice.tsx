import { useState } from "react";
import type { PracticeOf } from "../api/types";
import { plain } from "../words";

/** Shop practice line by line: what it is, what it says, its default, and back to it. */
export function Practice({
  lines,
  allowed,
  back,
}: {
  lines: PracticeOf[];
  allowed: boolean;
  back: (said: string) => void;
}) {
  const [all, setAll] = useState(false);
  const shown = lines.filter((one) => all || one.source !== "default");
  const groups = [...new Set(shown.map((one) => one.standard))];
  return (
    <div>
      <p className="mb-2 text-xs text-faint">
        What the shop does unless a rule says otherwise.{" "}
        <label>
          <input type="checkbox" checked={all} onChange={(event) => setAll(event.target.checked)} /> also what stands at
          its default
        </label>
      </p>
      {groups.map((standard) => (
        <section key={standard} className="mb-3" aria-label={standard ? plain(standard) : "All standards"}>
          <h3 className="text-xs font-semibold">{standard ? plain(standard) : "all standards"}</h3>
          {shown
            .filter((one) => one.standard === standard)
            .map((one) => (
              <div key={one.parameter} className="flex items-baseline gap-2 border-b border-line/60 py-1 text-xs">
                <span className="w-32 shrink-0 truncate" title={one.help}>
                  {one.label}
                </span>
                <span className={`w-28 shrink-0 ${one.source === "default" ? "text-faint" : "font-semibold"}`}>
                  {one.text || "follows"}
                </span>
                <span className="min-w-0 flex-1 text-faint">
                  {one.help}
                  {one.source === "default" ? "" : `; default ${one.default || "follows from the others"}`}
                  {one.source === "default" || one.source === "practice" ? "" : `; ${one.source}`}
                </span>
                {allowed && one.said && (
                  <button
                    type="button"
                    className="shrink-0 text-brass-dark underline-offset-2 hover:underline"
                    title={`Take ${one.said} out of practice`}
                    onClick={() => back(one.said)}
                  >
                    to default
                  </button>
                )}
              </div>
            ))}
        </section>
      ))}
    </div>
  );
}

import { useState } from "react";
import type { PracticeOf } from "../api/types";
import { plain } from "../words";

/** Shop practice entry by entry: what it says, what that is, for which standards, its default, and back to it; below, what nobody said. */
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
  const left = lines.filter((one) => one.source === "default");
  return (
    <div>
      <p className="mb-1 text-xs text-faint">What the shop does unless a rule says otherwise.</p>
      {together(lines.filter((one) => one.source !== "default")).map((same) => (
        <Entry
          key={`${same[0].source} ${same[0].parameter} ${same[0].text}`}
          same={same}
          allowed={allowed}
          back={back}
        />
      ))}
      <label className="my-2 flex items-center gap-1.5 text-xs text-faint">
        <input type="checkbox" checked={all} onChange={(event) => setAll(event.target.checked)} /> what stands at its
        default ({left.length})
      </label>
      {all &&
        [...new Set(left.map((one) => one.standard))].map((standard) => (
          <section key={standard} className="mb-3" aria-label={standard ? plain(standard) : "All standards"}>
            <h3 className="text-xs font-semibold">{standard ? plain(standard) : "all standards"}</h3>
            {left
              .filter((one) => one.standard === standard)
              .map((one) => (
                <Line key={one.parameter} one={one} words={one.help} />
              ))}
          </section>
        ))}
    </div>
  );
}

/** What one entry of practice says, alike for its standards. */
function Entry({ same, allowed, back }: { same: PracticeOf[]; allowed: boolean; back: (said: string) => void }) {
  const one = same[0];
  const standards = same.filter((each) => each.standard).map((each) => plain(each.standard));
  const defaults = [...new Set(same.map((each) => each.default || "follows from the others"))].join(" or ");
  return (
    <Line
      one={one}
      words={`${one.help}. Default ${defaults}${one.said ? "" : `; ${one.source}`}.`}
      of={standards.length ? `for ${standards.join(", ")}` : ""}
    >
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
    </Line>
  );
}

function Line({
  one,
  words,
  of = "",
  children,
}: {
  one: PracticeOf;
  words: string;
  of?: string;
  children?: React.ReactNode;
}) {
  return (
    <div className="border-b border-line/60 py-1.5 text-xs">
      <div className="flex items-baseline gap-2">
        <span className="min-w-0 flex-1">
          {one.label} {one.said && <code className="text-faint">{one.said}</code>}
        </span>
        <span className={one.source === "default" ? "text-faint" : "font-semibold"}>{one.text || "follows"}</span>
        {children}
      </div>
      <p className="text-faint">{words}</p>
      {of && <p className="text-faint">{of}</p>}
    </div>
  );
}

/** Lines of one entry that say the same. */
function together(lines: PracticeOf[]): PracticeOf[][] {
  const found = new Map<string, PracticeOf[]>();
  for (const one of lines) {
    const key = `${one.source} ${one.parameter} ${one.text}`;
    found.set(key, [...(found.get(key) ?? []), one]);
  }
  return [...found.values()];
}

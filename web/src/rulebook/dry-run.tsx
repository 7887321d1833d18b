import { Link } from "react-router";
import type { RuledComparison, Status } from "../api/types";
import { Scroll } from "../parts/scroll";
import { StatusMark, share } from "../parts/status";
import { toConnection } from "../paths";
import { ORDER, sentence, WEIGHT } from "../words";

const MADE = [
  ["field_bolts", "field bolts"],
  ["shop_bolts", "shop bolts"],
  ["rods", "anchor rods"],
  ["steel", "steel"],
  ["weld", "weld"],
] as const;

/** What a rulebook would make otherwise than the job stands. */
export function DryRun({ job, found }: { job: string; found: RuledComparison }) {
  const judged = (side: RuledComparison["connections"][number]["before"]) => ["pass", "fail"].includes(side.status);
  return (
    <section aria-label="Dry run" className={`flex min-h-0 flex-col ${found.changed ? "flex-1" : ""}`}>
      <p className="mb-2">
        {found.changed ? (
          <>
            <b>{found.changed}</b> connections would be otherwise: {found.newly_fail} newly fail, {found.newly_pass}{" "}
            newly pass, {found.newly_unchecked} newly unchecked, {found.resized} judged the same with other sizes.
          </>
        ) : (
          "No connection would be otherwise than it stands."
        )}
      </p>
      <div className="mb-2 flex gap-10">
        <table className="text-xs" aria-label="How all would stand">
          <tbody>
            {ORDER.filter((s) => found.statuses_before[s] || found.statuses_after[s]).map((status) => (
              <tr key={status}>
                <td className="pr-3">
                  <StatusMark status={status} />
                </td>
                <Moved before={found.statuses_before[status] ?? 0} after={found.statuses_after[status] ?? 0} unit="" />
              </tr>
            ))}
          </tbody>
        </table>
        <table className="text-xs" aria-label="What all would be made of">
          <tbody>
            {MADE.filter(([name]) => found.before[name] || found.after[name]).map(([name, words]) => {
              const { unit, scale } =
                name === "steel" || name === "weld" ? WEIGHT[found.system] : { unit: "", scale: 1 };
              return (
                <tr key={name}>
                  <td className="pr-3">{words}</td>
                  <Moved
                    before={(found.before[name] ?? 0) * scale}
                    after={(found.after[name] ?? 0) * scale}
                    unit={unit}
                  />
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      <Scroll label="Connections that would be otherwise" className={found.changed ? "min-h-0 flex-1" : "hidden"}>
        <table className="w-full text-xs">
          <thead className="sticky top-0 bg-sheet text-left text-faint">
            <tr className="border-b border-line">
              {["Connection", "Stands", "Used", "Sizes now", "Would be", "Used", "Sizes then", "By rule"].map(
                (name, k) => (
                  <th key={`${name} ${k < 4}`} className="py-1 pr-3">
                    {name}
                  </th>
                ),
              )}
            </tr>
          </thead>
          <tbody>
            {found.connections.map(({ connection, before, after }) => (
              <tr key={connection} className="border-b border-line/60 align-top" title={sentence(after.reason)}>
                <td className="py-0.5 pr-3 font-semibold">
                  <Link to={toConnection(job, connection)} className="hover:underline">
                    {connection}
                  </Link>
                </td>
                <td className="pr-3">
                  <StatusMark status={before.status as Status} />
                </td>
                <td className="pr-3">{judged(before) ? share(before.utilisation) : ""}</td>
                <td className="pr-3">{before.summary}</td>
                <td className="pr-3">
                  <StatusMark status={after.status as Status} />
                </td>
                <td className="pr-3">{judged(after) ? share(after.utilisation) : ""}</td>
                <td className="pr-3">{after.summary || sentence(after.reason)}</td>
                <td className="pr-3">{after.rule}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {found.changed > found.connections.length && (
          <p className="py-1 text-xs text-faint">
            the first {found.connections.length} of {found.changed}
          </p>
        )}
      </Scroll>
    </section>
  );
}

function Moved({ before, after, unit }: { before: number; after: number; unit: string }) {
  const text = (n: number) => Math.round(n).toLocaleString("en-US");
  const by = Math.round(after) - Math.round(before);
  return (
    <>
      <td className="text-right">{text(before)}</td>
      <td className="px-1.5 text-faint">→</td>
      <td className="text-right font-semibold">{text(after)}</td>
      <td className="pl-1 text-faint">{unit}</td>
      <td className={`w-16 pl-2 text-right ${by ? "" : "text-faint"}`}>
        {by > 0 ? "+" : ""}
        {by ? text(by) : "same"}
      </td>
    </>
  );
}

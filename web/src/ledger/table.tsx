import { Paperclip } from "lucide-react";
import { Link, useLocation } from "react-router";
import type { Mark } from "../api/decisions";
import type { Decision, Status } from "../api/types";
import { StatusMark, share } from "../parts/status";
import { toConnection } from "../paths";
import { plain, sentence } from "../words";

export const MARKS: Record<Mark, string> = {
  agrees: "the rule gives the same now",
  worse: "used more than by the rule",
  carries: "passes by it only",
};

const STATES: Record<string, { mark: string; words: string; look: string }> = {
  awaiting: { mark: "…", words: "awaiting", look: "text-[#8a5600]" },
  accepted: { mark: "✓", words: "accepted", look: "text-[#23765a]" },
  returned: { mark: "↩", words: "returned", look: "text-fail" },
  cleared: { mark: "–", words: "cleared", look: "text-faint" },
};

/** The state of a decision as mark and word. */
export function State({ state }: { state: string }) {
  const { mark, words, look } = STATES[state] ?? STATES.cleared;
  return (
    <span className={`whitespace-nowrap font-medium ${look}`}>
      <span aria-hidden>{mark}</span> {words}
    </span>
  );
}

/** What a decision is about. */
export const decidedOf = (parameter: string) => (parameter === "elsewhere" ? "not here" : plain(parameter));

/** The day and minute of a stamp. */
export const when = (made: string) => made.replace("T", " ").replace(/:\d\dZ$/, " UTC");

/** Why it was decided: of the shop's list, in words, or both. */
export const why = (o: { cause: string; reason: string }) =>
  [o.cause, o.reason && `“${o.reason}”`].filter(Boolean).join(": ");

interface Props {
  job: string;
  items: Decision[];
  picked: Set<number>;
  pick: (id: number, all?: boolean) => void;
}

/** Decisions, each with what it changed, why, and what is to be known of it. */
export function DecisionTable({ job, items, picked, pick }: Props) {
  const from = useLocation().search;
  return (
    <table className="w-full" aria-label="Decisions">
      <thead className="sticky top-0 z-10 bg-paper text-left text-xs text-faint">
        <tr className="border-b border-line">
          <th className="w-8 py-1.5 pl-4">
            <input
              type="checkbox"
              aria-label="Select all"
              checked={items.length > 0 && items.every((o) => picked.has(o.id as number))}
              onChange={() => pick(0, true)}
            />
          </th>
          <th className="px-2">Connection</th>
          <th className="px-2">Decided</th>
          <th className="px-2">Utilisation</th>
          <th className="px-2">Why, by whom</th>
          <th className="px-2">State</th>
          <th className="px-2 pr-4">To know</th>
        </tr>
      </thead>
      <tbody>
        {items.map((o) => (
          <tr key={o.id} className="border-b border-line/60 align-top hover:bg-sheet">
            <td className="py-2 pl-4">
              <input
                type="checkbox"
                aria-label={`Select ${o.id}`}
                checked={picked.has(o.id as number)}
                onChange={() => pick(o.id as number)}
              />
            </td>
            <td className="px-2 py-2">
              <Link to={toConnection(job, o.connection, `ledger${from}`)} className="font-semibold hover:underline">
                {o.connection}
              </Link>
              <div className="text-xs text-faint">
                {[o.level && `level ${o.level}`, o.section].filter(Boolean).join(", ")}
              </div>
            </td>
            <td className="max-w-64 px-2 py-2">
              <span className="text-faint">{decidedOf(o.parameter)}</span>{" "}
              <span className="text-faint">{(o.parameter !== "elsewhere" && sentence(o.before.value)) || "–"} →</span>{" "}
              <b>{sentence(o.value)}</b>
              {o.attachments > 0 && (
                <span className="ml-1 text-xs text-faint" title={`${o.attachments} files`}>
                  <Paperclip size={11} className="inline" /> {o.attachments}
                </span>
              )}
            </td>
            <td className="whitespace-nowrap px-2 py-2">
              <Used side={o.before} /> → <Used side={o.after} />
              {o.status && (
                <div className="text-xs text-faint">
                  now <StatusMark status={o.status as Status} /> {o.utilisation > 0 && share(o.utilisation)}
                </div>
              )}
            </td>
            <td className="max-w-72 px-2 py-2">
              {why(o)}
              <div className="text-xs text-faint">
                {o.author}, {when(o.made)}
              </div>
            </td>
            <td className="px-2 py-2">
              <State state={o.state} />
              {o.reviewer && (
                <div className="max-w-40 text-xs text-faint">
                  {o.reviewer}
                  {o.word && `: “${o.word}”`}
                </div>
              )}
            </td>
            <td className="max-w-72 px-2 py-2 pr-4 text-xs">
              {o.look.map((words) => (
                <div key={words} className="text-[#8a5600]">
                  ⟳ {sentence(words)}
                </div>
              ))}
              {o.marks.map((mark) => (
                <div key={mark} className={mark === "worse" ? "text-fail" : "text-faint"}>
                  {MARKS[mark]}
                </div>
              ))}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Used({ side }: { side: { status: string; utilisation: number } }) {
  return side.status === "pass" || side.status === "fail" ? (
    <span className={side.status === "fail" ? "text-fail" : ""}>{share(side.utilisation)}</span>
  ) : (
    <span className="text-faint">{side.status}</span>
  );
}

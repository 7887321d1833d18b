import type { Check, Connection } from "../api/types";
import { Utilisation } from "../parts/status";
import { figure, plain, strength, unitText } from "../words";

const COLUMNS = "grid grid-cols-[12px_minmax(0,1fr)_64px_64px_46px_100px] items-center gap-2 px-3";

/** Every check, the worst first; one opens to its worked lines. */
export function Checks({ data, part, setPart }: { data: Connection; part: string; setPart: (part: string) => void }) {
  return (
    <>
      <div className={`${COLUMNS} sticky top-0 border-b border-line bg-paper py-1 text-xs font-semibold text-faint`}>
        <span />
        <span>Check, clause</span>
        <span className="text-right">Demand</span>
        <span className="text-right">Available</span>
        <span>Unit</span>
        <span>Utilisation</span>
      </div>
      {data.checks.map((check) => (
        <Row key={check.check} check={check} active={part === check.part} onPart={setPart} />
      ))}
      {data.notes.map((note) => (
        <p key={note} className="border-t border-line/60 px-4 py-1.5 text-faint">
          Note: {note}
        </p>
      ))}
    </>
  );
}

function Row({ check, active, onPart }: { check: Check; active: boolean; onPart: (part: string) => void }) {
  const shown = check.shown ?? { demand: check.demand, strength: check.strength, unit: check.unit };
  const over = check.utilisation > 1;
  return (
    <details
      className={`group border-b border-line/60 ${active ? "bg-brass/15" : ""}`}
      onToggle={() => onPart(check.part)}
    >
      <summary className={`${COLUMNS} cursor-pointer list-none py-1.5 hover:bg-paper`}>
        <span className="text-faint group-open:rotate-90">›</span>
        <span className="truncate">
          <span className={over ? "font-semibold text-fail" : "font-medium"}>
            {over && "✕ "}
            {plain(check.check)}
          </span>{" "}
          <span className="text-xs text-faint">{check.clause}</span>
        </span>
        <span className="text-right text-xs">{figure(shown.demand)}</span>
        <span className="text-right text-xs">{check.shown ? strength(shown.strength) : "–"}</span>
        <span className="text-xs text-faint">{unitText(shown.unit) || "–"}</span>
        <Utilisation value={check.limit && !over ? 0 : check.utilisation} />
      </summary>
      <div className="bg-white px-8 pb-3 pt-1">
        <p className="mb-1 text-xs text-faint">
          In {check.action}, on the {check.part}
          {check.limit && "; a limit: it counts only when it is passed"}
        </p>
        <ol className="space-y-0.5 font-mono text-[11px] leading-snug">
          {check.lines.map((line, k) => (
            <li key={`${k}${line}`}>{unitText(line)}</li>
          ))}
        </ol>
      </div>
    </details>
  );
}

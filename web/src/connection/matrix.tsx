import { useState } from "react";
import { useMatrix, useMatrixCheck } from "../api/queries";
import type { Matrix } from "../api/types";
import { Scroll } from "../parts/scroll";
import { share } from "../parts/status";
import { figure, plain, strength, unitText } from "../words";

const HEAT: [number, string][] = [
  [1, "#b0322a"],
  [0.9, "#e9b872"],
  [0.7, "#f0dcae"],
  [0.4, "#f7efd9"],
  [0, "#ffffff"],
];

/** Every check at every combination: what governs each row and column, what fails, any one opened to its worked lines. */
export function MatrixPanel({ job, connection }: { job: string; connection: string }) {
  const { data, error } = useMatrix(job, connection);
  const [cell, setCell] = useState<[number, number] | null>(null);
  const [failing, setFailing] = useState(false);
  if (error) return <p className="p-4 text-faint">{error.message}</p>;
  if (!data) return <p className="p-4 text-faint">Working out every check at every combination …</p>;
  const order = ranked(data).filter((n) => !failing || data.utilisations[n].some((v) => (v ?? 0) > 1));
  const over = data.utilisations.flat().filter((v) => (v ?? 0) > 1).length;
  return (
    <div className="flex h-full flex-col">
      <p className="flex items-center gap-3 px-3 py-2 text-xs text-faint">
        {data.checks.length} checks at {data.combinations.length} combinations; in bold what governs its row, framed
        what governs its column
        <label className="ml-auto flex items-center gap-1.5 text-ink">
          <input type="checkbox" checked={failing} onChange={(e) => setFailing(e.target.checked)} />
          only what fails ({over})
        </label>
      </p>
      <Scroll label="Checks at combinations" className="min-h-0 flex-1 overflow-x-auto">
        <table className="border-separate border-spacing-0 text-[11px]">
          <thead>
            <tr>
              <th className="sticky left-0 top-0 z-20 min-w-44 bg-paper text-left font-normal text-faint">check</th>
              {data.combinations.map((c) => (
                <th
                  key={`${c.method}${c.set}${c.action}`}
                  className="sticky top-0 z-10 bg-paper px-1 pt-3 pb-1 align-bottom font-normal"
                >
                  <span className="inline-block max-h-44 overflow-hidden [writing-mode:vertical-rl] rotate-180 whitespace-nowrap text-left">
                    {c.action}
                    {c.set === "overstrength" && " (overstrength)"}
                  </span>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {order.map((n) => (
              <Row key={data.checks[n].check + data.checks[n].part} data={data} n={n} cell={cell} onCell={setCell} />
            ))}
          </tbody>
        </table>
        {!order.length && <p className="p-4 text-faint">Nothing fails at any combination.</p>}
      </Scroll>
      {cell && <Opened job={job} connection={connection} cell={cell} onClose={() => setCell(null)} />}
    </div>
  );
}

/** Checks by their largest, limits that hold last. */
function ranked(data: Matrix): number[] {
  const most = data.checks.map((c, n) => {
    const largest = Math.max(-1, ...data.utilisations[n].map((v) => v ?? -1));
    return c.limit && largest <= 1 ? largest - 10 : largest;
  });
  return most.map((_, n) => n).sort((a, b) => most[b] - most[a]);
}

function Row({
  data,
  n,
  cell,
  onCell,
}: {
  data: Matrix;
  n: number;
  cell: [number, number] | null;
  onCell: (cell: [number, number]) => void;
}) {
  const check = data.checks[n];
  return (
    <tr>
      <th
        className="sticky left-0 z-10 max-w-44 truncate border-t border-line/60 bg-sheet pr-2 text-left font-medium"
        title={`${check.part}, ${check.clause}`}
      >
        {plain(check.check)}
      </th>
      {data.utilisations[n].map((value, k) => {
        const { action, method, set, governs } = data.combinations[k];
        const name = `${plain(check.check)} in ${action}`;
        const open = cell?.[0] === n && cell[1] === k;
        return (
          <td key={`${method}${set}${action}`} className="border-t border-line/60 p-0">
            {value !== null && (
              <button
                type="button"
                title={name}
                aria-label={`${name}: ${share(value)}`}
                onClick={() => onCell([n, k])}
                className={`block w-full min-w-9 px-1 text-right ${check.governs === k ? "font-bold" : ""} ${governs === n ? "outline outline-1 -outline-offset-1 outline-ink/60" : ""} ${open ? "ring-2 ring-brass" : ""} ${value > 1 && !check.limit ? "text-white" : ""}`}
                style={{ background: check.limit && value <= 1 ? "transparent" : colourOf(value) }}
              >
                {share(value)}
              </button>
            )}
          </td>
        );
      })}
    </tr>
  );
}

const colourOf = (value: number) =>
  value > 1 ? HEAT[0][1] : (HEAT.slice(1).find(([least]) => value >= least)?.[1] ?? "#ffffff");

function Opened({
  job,
  connection,
  cell,
  onClose,
}: {
  job: string;
  connection: string;
  cell: [number, number];
  onClose: () => void;
}) {
  const { data, error } = useMatrixCheck(job, connection, cell);
  const shown = data && (data.shown ?? { demand: data.demand, strength: data.strength, unit: data.unit });
  return (
    <section className="max-h-64 overflow-y-auto border-t border-line bg-white px-4 py-2" aria-label="Worked lines">
      <div className="flex items-baseline justify-between">
        <h2 className="font-semibold">
          {data ? `${plain(data.check)} in ${data.action}` : error ? error.message : "…"}{" "}
          {data && (
            <span className="font-normal text-faint">
              {data.clause}, on the {data.part}
            </span>
          )}
        </h2>
        <button type="button" aria-label="Close" className="px-1 text-faint" onClick={onClose}>
          ✕
        </button>
      </div>
      {data && shown && (
        <p>
          {figure(shown.demand)} of {data.shown ? strength(shown.strength) : "no limit"} {unitText(shown.unit)}:{" "}
          <b>{share(data.utilisation)}</b>
        </p>
      )}
      <ol className="mt-1 space-y-0.5 font-mono text-[11px] leading-snug">
        {data?.lines.map((line, k) => (
          <li key={`${k}${line}`}>{unitText(line)}</li>
        ))}
      </ol>
    </section>
  );
}

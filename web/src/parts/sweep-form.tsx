import { useMutation } from "@tanstack/react-query";
import { type FormEvent, type ReactNode, useEffect, useRef, useState } from "react";
import type { Status, SweepRow, Sweep as Swept, System } from "../api/types";
import { plain, sentence, WEIGHT } from "../words";
import { BUTTON, FIELD, Refusal } from "./dialog";
import { StatusMark } from "./status";

const ORDERS = { as_written: "as written", lightest: "the lightest first", fewest_bolts: "fewest bolts first" };
const SHOWN = 60; // rows; the picture has all of them

type Keep = (found: Swept, winner: SweepRow) => ReactNode;
export type Values = Record<string, string | string[]>[];

/** Lists of values for sizes, tried; what may be done with the first that passes. */
export function SweepForm({
  run,
  keep,
  system,
}: {
  run: (values: Values, order: string, stop: string, signal: AbortSignal) => Promise<Swept>;
  keep: Keep;
  system: System;
}) {
  const [text, setText] = useState("");
  const [order, setOrder] = useState("as_written");
  const [first, setFirst] = useState(false);
  const leaving = useRef<AbortController>(null);
  useEffect(() => () => leaving.current?.abort(), []);
  const tried = useMutation({
    mutationFn: () => {
      leaving.current = new AbortController();
      return run(entries(text), order, first ? "first" : "all", leaving.current.signal);
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    tried.mutate();
  };
  return (
    <section aria-label="Sweep">
      <form onSubmit={submit}>
        <label className="block">
          <span className="text-faint">
            Sweep its sizes over values: a size a line, with a list or start .. limit by step; what is on one line goes
            together (;)
          </span>
          <textarea
            value={text}
            onChange={(e) => setText(e.target.value)}
            rows={3}
            placeholder={
              "rows: 2 .. 6\nplate_thickness: 1/4 in, 5/16 in, 3/8 in; weld_size: = up(5/8 * plate_thickness, 1/16 in)"
            }
            className={`${FIELD} font-mono text-xs`}
          />
        </label>
        <div className="mt-1 flex items-center gap-3 text-xs">
          <label>
            <span className="text-faint">tried </span>
            <select
              value={order}
              onChange={(e) => setOrder(e.target.value)}
              className="rounded border border-line bg-white p-1"
            >
              {Object.entries(ORDERS).map(([name, words]) => (
                <option key={name} value={name}>
                  {words}
                </option>
              ))}
            </select>
          </label>
          <label className="flex flex-1 items-center gap-1.5">
            <input type="checkbox" checked={first} onChange={(e) => setFirst(e.target.checked)} /> stop at the first
            that passes
          </label>
          <button type="submit" className={BUTTON} disabled={!entries(text).length || tried.isPending}>
            {tried.isPending ? "Trying …" : "Sweep"}
          </button>
        </div>
      </form>
      <Refusal error={tried.error} />
      {tried.data && <Found found={tried.data} system={system} keep={keep} />}
    </section>
  );
}

/** `rows: 2 .. 6` and the like, a line an entry, as the service takes them. */
export function entries(text: string): Values {
  const value = (said: string) =>
    said.startsWith("=") || !said.includes(",") ? said : said.split(",").map((one) => one.trim());
  return text
    .split("\n")
    .map((line) =>
      Object.fromEntries(
        line
          .split(";")
          .map((pair) => [pair.slice(0, pair.indexOf(":")).trim(), pair.slice(pair.indexOf(":") + 1).trim()])
          .filter(([name, said]) => name && said)
          .map(([name, said]) => [name, value(said)]),
      ),
    )
    .filter((entry) => Object.keys(entry).length);
}

function Found({ found, system, keep }: { found: Swept; system: System; keep: Keep }) {
  const winner = found.winner === null ? null : found.rows[found.winner];
  const passing = found.rows.filter((row) => row.status === "pass").length;
  return (
    <div className="mt-2">
      <p className="text-xs">
        {found.tried} of {found.total} candidates tried, {passing} pass
        {winner ? `; the first is ${said(winner)}, at ${winner.utilisation.toFixed(2)}` : ""}.{" "}
        {winner && keep(found, winner)}
      </p>
      <Picture found={found} />
      <Rows found={found} system={system} />
    </div>
  );
}

export const said = (row: SweepRow) =>
  Object.entries(row.values)
    .map(([name, value]) => `${plain(name)} ${value}`)
    .join(", ");

const WIDE = 560;
const HIGH = 150;
const LEFT = 34;
const FOOT = 16;

/** Utilisation of every candidate in its order: passing ones filled, failing ones open, the winner ringed. */
function Picture({ found }: { found: Swept }) {
  const most = Math.min(2, Math.max(1.1, ...found.rows.map((row) => row.utilisation)));
  const x = (k: number) => LEFT + 8 + (k / Math.max(found.rows.length - 1, 1)) * (WIDE - LEFT - 20);
  const y = (use: number) => 8 + (1 - Math.min(use, most) / most) * (HIGH - FOOT - 8);
  const size = found.rows.length < 120 ? 3 : 1.5;
  return (
    <svg viewBox={`0 0 ${WIDE} ${HIGH}`} className="mt-1 w-full" role="img" aria-label="Utilisation of every candidate">
      {[0, 0.5, 1, 1.5, 2]
        .filter((use) => use <= most)
        .map((use) => (
          <g key={use}>
            <line
              x1={LEFT}
              x2={WIDE}
              y1={y(use)}
              y2={y(use)}
              stroke={use === 1 ? "#a33b2c" : "#e2ddd0"}
              strokeWidth="1"
            />
            <text x={LEFT - 5} y={y(use) + 4} textAnchor="end" fontSize="10" fill="#58635e">
              {use.toFixed(1)}
            </text>
          </g>
        ))}
      {found.rows.map((row, k) => (
        <g key={row.number}>
          <title>{`${said(row)}: ${row.status} ${row.utilisation.toFixed(2)}`}</title>
          <circle
            cx={x(k)}
            cy={y(row.status === "unchecked" ? 0 : row.utilisation)}
            r={size}
            fill={row.status === "pass" ? "#26745a" : "#fff"}
            stroke={row.status === "pass" ? "#26745a" : row.status === "fail" ? "#a33b2c" : "#8b8578"}
          />
          {k === found.winner && (
            <circle cx={x(k)} cy={y(row.utilisation)} r={size + 4} fill="none" stroke="#b7791f" strokeWidth="2" />
          )}
        </g>
      ))}
      <text x={LEFT} y={HIGH - 3} fontSize="10" fill="#58635e">
        utilisation of each candidate, in the order tried
        {found.rows.some((row) => row.utilisation > most) ? `; over ${most.toFixed(1)} at the upper edge` : ""}
      </text>
    </svg>
  );
}

function Rows({ found, system }: { found: Swept; system: System }) {
  const { unit, scale } = WEIGHT[system];
  const head = ["No.", ...found.vary.map(plain), "Utilisation", "Governs", `Steel, ${unit}`, "Bolts"];
  return (
    <table className="mt-2 w-full border-collapse text-left text-xs" aria-label="Candidates">
      <thead>
        <tr>
          {head.map((name) => (
            <th key={name} className="border-b border-line px-1.5 py-1 font-normal text-faint">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {found.rows.slice(0, SHOWN).map((row, k) => (
          <tr
            key={row.number}
            className={`border-b border-line/60 align-top ${k === found.winner ? "bg-brass/15" : ""}`}
          >
            <td className="px-1.5 py-1 text-faint">{row.number}</td>
            {found.vary.map((name) => (
              <td key={name} className="whitespace-nowrap px-1.5 py-1">
                {row.values[name]}
              </td>
            ))}
            <td className="whitespace-nowrap px-1.5 py-1">
              <StatusMark status={row.status as Status} word={false} />{" "}
              {row.status === "unchecked" ? "" : row.utilisation.toFixed(2)}
            </td>
            <td className="px-1.5 py-1">
              {plain(row.check)}
              {row.reason && row.utilisation <= 1 && <div className="text-fail">{sentence(row.reason)}</div>}
            </td>
            <td className="px-1.5 py-1 text-right">{row.steel === null ? "" : (row.steel * scale).toFixed(1)}</td>
            <td className="px-1.5 py-1 text-right">{row.bolts}</td>
          </tr>
        ))}
      </tbody>
      {found.rows.length > SHOWN && (
        <caption className="caption-bottom pt-1 text-left text-faint">
          the first {SHOWN} of {found.rows.length}; the picture has all
        </caption>
      )}
    </table>
  );
}

import type { Figures } from "../api/types";
import { KIP, KIP_FOOT, KSI } from "../units";
import { amount, figure, plain, unitText } from "../words";
import { Breakouts, Rods } from "./base";
import { Flow } from "./flow";
import { PULLED, type System, type Used } from "./used";

const ACTIONS = ["N", "V", "Vw", "M", "Mw"] as const;
const KIND = { N: "kN", V: "kN", Vw: "kN", M: "kN*m", Mw: "kN*m" };
const unitOf = (name: (typeof ACTIONS)[number], system: System) => amount(0, KIND[name], system).split(" ")[1];

/** The combinations, the one that governs first. */
export function ranked(figures: Figures): Used[] {
  return [...figures.combinations].sort((a, b) => (b.utilisation ?? -1) - (a.utilisation ?? -1));
}

const stress = (mpa: number, system: System) => (system === "si" ? `${figure(mpa)} MPa` : `${figure(mpa / KSI)} ksi`);
const BY = { block: "even block", strain: "plane of strain" };

interface Props {
  figures: Figures;
  system: System;
  at: number;
  setAt: (at: number) => void;
}

/** How a base or a splice works under one combination, stepped through from the one that governs; its numbers, and where it stands in its
 * strength. */
export function CombinationsPanel({ figures, system, at, setAt }: Props) {
  const order = ranked(figures);
  const used = order[at];
  return (
    <div className="p-3">
      <Steps order={order} at={at} setAt={setAt} />
      <dl className="my-2 grid grid-cols-3 gap-x-4 text-xs">
        {ACTIONS.map((name) => (
          <div key={name} className="flex justify-between border-b border-line/60 py-0.5">
            <dt className="text-faint">{name}</dt>
            <dd>{amount(used[name], KIND[name], system)}</dd>
          </div>
        ))}
        {used.base && (
          <>
            <div className="flex justify-between border-b border-line/60 py-0.5">
              <dt className="text-faint">largest pressure</dt>
              <dd>{stress(used.base.pressure, system)}</dd>
            </div>
            <div className="flex justify-between border-b border-line/60 py-0.5">
              <dt className="text-faint">by</dt>
              <dd>{used.base.solved ? BY[used.base.by] : "nothing balances"}</dd>
            </div>
          </>
        )}
      </dl>
      <div className="flex flex-wrap gap-4">
        {used.base ? (
          <>
            <Rods figures={figures} used={used} system={system} />
            <Breakouts used={used} />
          </>
        ) : (
          <Flow figures={figures} used={used} system={system} />
        )}
        <Boundary figures={figures} order={order} used={used} system={system} setAt={setAt} />
      </div>
      <All order={order} used={used} system={system} setAt={setAt} />
    </div>
  );
}

function Steps({ order, at, setAt }: { order: Used[]; at: number; setAt: (at: number) => void }) {
  const used = order[at];
  const button = "rounded border border-line px-2 py-0.5 hover:bg-paper disabled:text-faint disabled:opacity-50";
  return (
    <div className="flex items-center gap-2">
      <button type="button" aria-label="More used" className={button} disabled={at === 0} onClick={() => setAt(at - 1)}>
        ‹
      </button>
      <button
        type="button"
        aria-label="Less used"
        className={button}
        disabled={at === order.length - 1}
        onClick={() => setAt(at + 1)}
      >
        ›
      </button>
      <h2 className="whitespace-nowrap font-semibold">{used.action}</h2>
      <span className="text-xs text-faint">
        {at + 1} of {order.length}, {used.method}
        {used.utilisation !== null && `; ${plain(used.check)} at ${used.utilisation.toFixed(2)}`}
        {at === 0 && ", governs"}
      </span>
    </div>
  );
}

const [WIDE, HIGH, LEFT, LOW, TOP] = [256, 200, 50, 30, 10];

/** N against the moment that matters more: the boundary where a limit state is used up, and every combination. */
function Boundary({
  figures,
  order,
  used,
  system,
  setAt,
}: {
  figures: Figures;
  order: Used[];
  used: Used;
  system: System;
  setAt: (at: number) => void;
}) {
  const line = figures.boundary.find((b) => b.method === used.method) ?? figures.boundary[0];
  const force = system === "si" ? 1 : 1 / KIP;
  const moment = system === "si" ? 1 : 1 / KIP_FOOT;
  const own = order.filter((c) => c.method === line.method);
  const scaled = line.points.map(([m, n]) => [m * moment, n * force]);
  const dots = own.map((c) => [c[line.axis] * moment, c.N * force]);
  const reach = Math.max(...[...scaled, ...dots].map(([m]) => Math.abs(m)), 1e-6);
  const ns = [...scaled, ...dots].map(([, n]) => n);
  const [least, most] = [Math.min(...ns, 0), Math.max(...ns, 0)];
  const x = (m: number) => LEFT + ((m + reach) / (2 * reach)) * (WIDE - LEFT - 8);
  const y = (n: number) => TOP + ((most - n) / (most - least || 1)) * (HIGH - TOP - LOW);
  return (
    <figure className="flex-1">
      <svg
        width={WIDE}
        height={HIGH}
        role="img"
        aria-label={`N against ${line.axis}: strength and combinations`}
        className="bg-white"
      >
        <line x1={LEFT} x2={WIDE - 8} y1={y(0)} y2={y(0)} stroke="#9aa5a0" />
        <line x1={x(0)} x2={x(0)} y1={TOP} y2={HIGH - LOW} stroke="#9aa5a0" />
        <polygon
          points={scaled.map(([m, n]) => `${x(m)},${y(n)}`).join(" ")}
          fill="#23765a"
          fillOpacity={0.08}
          stroke="#23765a"
          strokeWidth={1.4}
        />
        {own.map((c, k) => (
          <circle
            key={c.action}
            cx={x(dots[k][0])}
            cy={y(dots[k][1])}
            r={c === used ? 5 : 3}
            fill={(c.utilisation ?? 0) > 1 ? PULLED : "#1e2926"}
            stroke={c === used ? "#d9a441" : "none"}
            strokeWidth={3}
            className="cursor-pointer"
            onClick={() => setAt(order.indexOf(c))}
          >
            <title>{c.action}</title>
          </circle>
        ))}
        <g fontSize={10} fill="#566570">
          <text x={LEFT - 4} y={y(most) + 8} textAnchor="end">
            {figure(most)}
          </text>
          <text x={LEFT - 4} y={y(least)} textAnchor="end">
            {figure(least)}
          </text>
          <text x={LEFT - 4} y={y(0) + 3} textAnchor="end">
            0
          </text>
          <text x={x(-reach)} y={HIGH - 16}>
            {figure(-reach)}
          </text>
          <text x={x(reach)} y={HIGH - 16} textAnchor="end">
            {figure(reach)}
          </text>
        </g>
        <g fontSize={11} fill="#1e2926">
          <text x={x(0) + 4} y={TOP + 8}>
            N, {system === "si" ? "kN" : "kip"}
          </text>
          <text x={(LEFT + WIDE) / 2} y={HIGH - 4} textAnchor="middle">
            {line.axis}, {unitText(system === "si" ? "kN*m" : "kip*ft")}
          </text>
        </g>
      </svg>
      <figcaption className="text-xs text-faint">
        Strength boundary in N and {line.axis} with nothing else acting ({line.method}); uplift above 0.
      </figcaption>
    </figure>
  );
}

function All({
  order,
  used,
  system,
  setAt,
}: {
  order: Used[];
  used: Used;
  system: System;
  setAt: (at: number) => void;
}) {
  return (
    <table className="mt-3 w-full table-fixed text-xs">
      <caption className="pb-1 text-left font-semibold">All combinations, the most used first</caption>
      <thead>
        <tr className="border-b border-line text-left text-faint">
          <th className="w-[164px] font-semibold">Combination</th>
          {ACTIONS.map((name) => (
            <th key={name} className="text-right font-semibold">
              {name}, {unitOf(name, system)}
            </th>
          ))}
          <th className="w-[44px] pl-2 text-right font-semibold">used</th>
          <th className="pl-2 font-semibold">by</th>
        </tr>
      </thead>
      <tbody>
        {order.map((c, k) => (
          <tr key={`${c.method}${c.action}`} className={`border-b border-line/60 ${c === used ? "bg-brass/15" : ""}`}>
            <td>
              <button
                type="button"
                className="w-full truncate py-0.5 text-left hover:underline"
                title={c.action}
                onClick={() => setAt(k)}
              >
                {c.action}
              </button>
            </td>
            {ACTIONS.map((name) => (
              <td key={name} className="text-right">
                {amount(c[name], KIND[name], system).split(" ")[0]}
              </td>
            ))}
            <td className="pl-2 text-right">{c.utilisation === null ? "–" : c.utilisation.toFixed(2)}</td>
            <td className="truncate pl-2" title={plain(c.check)}>
              {plain(c.check)}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

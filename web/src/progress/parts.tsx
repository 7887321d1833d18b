import type { Counts } from "../api/types";
import { STATUSES } from "../words";

const BAR = ["pass", "elsewhere", "unassigned", "unchecked", "fail"] as const;

/** How they stand, as one bar of the whole width. */
export function Bar({ counts }: { counts: Counts }) {
  return (
    <span className="flex h-2.5 w-full overflow-hidden rounded-sm bg-line" aria-hidden>
      {BAR.map((name) => (
        <span
          key={name}
          title={`${counts[name]} ${name}`}
          style={{ width: `${(counts[name] / Math.max(counts.total, 1)) * 100}%`, background: STATUSES[name].colour }}
        />
      ))}
    </span>
  );
}

export const COLUMNS: [keyof Counts, string][] = [
  ["total", "connections"],
  ["done", "done"],
  ["released", "released"],
  ["fail", "fail"],
  ["remarks", "pass, remarks"],
  ["over_target", "over target"],
  ["stale", "stale"],
  ["unchecked", "unchecked"],
  ["unassigned", "unassigned"],
  ["elsewhere", "elsewhere"],
  ["awaiting", "awaiting"],
  ["look", "look again"],
  ["fell", "release fell"],
];

const LINES: [keyof Counts, string, string][] = [
  ["done", "done", "#23765a"],
  ["released", "released", "#1d4f91"],
  ["fail", "fail", "#b0322a"],
];
const [WIDE, HIGH, LEFT, BELOW] = [560, 170, 44, 22];

/** Heights of letters that do not stand on one another. */
function spread(heights: number[]): number[] {
  const order = heights.map((_, k) => k).sort((a, b) => heights[b] - heights[a]);
  const found = [...heights];
  for (let n = 1; n < order.length; n++) found[order[n]] = Math.min(found[order[n]], found[order[n - 1]] - 12);
  return found;
}

/** How it moved, day by day. */
export function Days({ days }: { days: (Counts & { day: string })[] }) {
  const most = Math.max(...days.map((day) => day.total), 1);
  const x = (k: number) => LEFT + (days.length > 1 ? (k / (days.length - 1)) * (WIDE - LEFT - 70) : 0);
  const y = (value: number) => 8 + (1 - value / most) * (HIGH - BELOW - 8);
  const last = days[days.length - 1];
  const lettered = spread(LINES.map(([name]) => y(last[name] as number)));
  const every = Math.max(1, Math.ceil(days.length / 6));
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      className="w-full max-w-[640px]"
      role="img"
      aria-label="Done, released and failing connections by day"
    >
      {[0, 0.5, 1].map((share) => (
        <g key={share}>
          <line x1={LEFT} x2={WIDE - 70} y1={y(most * share)} y2={y(most * share)} stroke="#d8dcd6" />
          <text x={LEFT - 6} y={y(most * share) + 4} textAnchor="end" fontSize="11" fill="#5d6b73">
            {Math.round(most * share)}
          </text>
        </g>
      ))}
      {days.map((day, k) =>
        k % every === 0 || k === days.length - 1 ? (
          <text key={day.day} x={x(k)} y={HIGH - 4} textAnchor="middle" fontSize="11" fill="#5d6b73">
            {day.day.slice(5)}
          </text>
        ) : null,
      )}
      {LINES.map(([name, words, colour], n) => (
        <g key={name}>
          <polyline
            points={days.map((day, k) => `${x(k)},${y(day[name] as number)}`).join(" ")}
            fill="none"
            stroke={colour}
            strokeWidth="2"
          />
          {days.map((day, k) => (
            <circle key={day.day} cx={x(k)} cy={y(day[name] as number)} r="2.5" fill={colour} />
          ))}
          <text x={x(days.length - 1) + 8} y={lettered[n] + 4} fontSize="11" fill={colour}>
            {words} {last[name]}
          </text>
        </g>
      ))}
    </svg>
  );
}

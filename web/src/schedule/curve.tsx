interface Point {
  marks: number;
  bolts: number;
  steel: number;
}

const WIDE = 900;
const HIGH = 190;
const LEFT = 64;
const RIGHT = 190;
const TOP = 26;
const FOOT = 34;

/** What fewer marks cost: steel and bolts more or less than now, over the number of marks. */
export function Curve({ points, unit }: { points: Point[]; unit: string }) {
  const most = points[0].marks;
  const least = points[points.length - 1].marks;
  const x = (marks: number) => LEFT + ((most - marks) / Math.max(most - least, 1)) * (WIDE - LEFT - RIGHT);
  const lines = [
    { name: `steel, ${unit}`, colour: "#22302c", of: (p: Point) => p.steel, dash: "" },
    { name: "bolts", colour: "#835a0c", of: (p: Point) => p.bolts, dash: "5 4" },
  ];
  const every = points.flatMap((p) => lines.map((line) => line.of(p)));
  const low = Math.min(0, ...every);
  const high = Math.max(1, ...every);
  const y = (value: number) => TOP + ((high - value) / (high - low)) * (HIGH - TOP - FOOT);
  const step = Math.max(1, Math.ceil((most - least) / 12));
  const ticks = points.filter((p) => (most - p.marks) % step === 0);
  return (
    <svg viewBox={`0 0 ${WIDE} ${HIGH}`} className="w-full max-w-4xl" role="img" aria-label="What fewer marks cost">
      <line x1={LEFT} x2={WIDE - RIGHT} y1={y(0)} y2={y(0)} stroke="#58635e" strokeWidth="1" />
      {[low, 0, high]
        .filter((value) => !value || Math.abs(y(value) - y(0)) > 14)
        .map((value) => (
          <text key={value} x={LEFT - 8} y={y(value) + 4} textAnchor="end" fontSize="11" fill="#58635e">
            {value > 0 ? "+" : ""}
            {Math.round(value).toLocaleString("en-US")}
          </text>
        ))}
      {lines.map((line) => (
        <g key={line.name}>
          <polyline
            points={points.map((p) => `${x(p.marks)},${y(line.of(p))}`).join(" ")}
            fill="none"
            stroke={line.colour}
            strokeWidth="2"
            strokeDasharray={line.dash}
          />
          <text
            x={WIDE - RIGHT + 10}
            y={y(line.of(points[points.length - 1])) + (line.dash ? 14 : 0)}
            fontSize="11"
            fill={line.colour}
          >
            {line.name} beside now
          </text>
        </g>
      ))}
      {ticks.map((p) => (
        <text key={p.marks} x={x(p.marks)} y={HIGH - 16} textAnchor="middle" fontSize="11" fill="#58635e">
          {p.marks}
        </text>
      ))}
      <text x={LEFT} y={HIGH - 2} fontSize="11" fill="#58635e">
        marks left
      </text>
    </svg>
  );
}

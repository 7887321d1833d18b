import type { Dimension, Note, Point, Shape, View } from "../api/types";

/** One view of a drawing as SVG; lettering keeps its size whatever the scale. */
export function SceneView({
  view,
  width,
  height,
  active,
  onPart,
}: {
  view: View;
  width: number;
  height: number;
  active?: string;
  onPart?: (part: string) => void;
}) {
  const place = fit(view, width, height);
  return (
    <figure>
      <svg width={width} height={height} role="img" aria-label={view.title} className="bg-white">
        <defs>
          <pattern id="hatch" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <path d="M0 0V5" stroke="#9aa5a0" strokeWidth="0.8" />
          </pattern>
        </defs>
        {view.shapes.map((shape, k) => (
          <Drawn key={`${shape.part}${k}`} shape={shape} place={place} active={active === shape.part} onPart={onPart} />
        ))}
        {view.dimensions.map((dim, k) => (
          <DimensionLine
            key={`${dim.text}${k}`}
            dim={dim}
            place={place}
            active={Boolean(active) && active === dim.parameter}
            onPart={onPart}
          />
        ))}
        {view.notes.map((note) => (
          <Leader key={note.text} note={note} place={place} width={width} />
        ))}
      </svg>
      <figcaption className="pt-1 text-center text-xs font-semibold uppercase tracking-wider text-faint">
        {view.title}
      </figcaption>
    </figure>
  );
}

interface Place {
  x: (v: number) => number;
  y: (v: number) => number;
  scale: number;
}

function fit(view: View, width: number, height: number): Place {
  const points = view.shapes
    .flatMap((s) => ("centre" in s ? [s.centre] : s.points))
    .concat(view.notes.map((n) => n.to));
  const xs = points.map((p) => p[0]);
  const ys = points.map((p) => p[1]);
  const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const longest = Math.max(0, ...view.notes.filter((n) => n.align === "start").map((n) => n.text.length));
  const lettering = longest > 8 ? longest * 5.8 : 46;
  const left = view.notes.some((n) => n.align === "end") ? 62 : 46;
  const scale = Math.min((width - lettering - left) / (x1 - x0), (height - 66) / (y1 - y0));
  const dx = left + (width - lettering - left - (x1 - x0) * scale) / 2;
  const dy = 22 + (height - 66 - (y1 - y0) * scale) / 2;
  return { x: (v) => dx + (v - x0) * scale, y: (v) => dy + (y1 - v) * scale, scale };
}

const PART_FILL: Record<string, string> = {
  plate: "#e8c987",
  beam: "none",
  support: "none",
  bolts: "#ffffff",
  weld: "none",
};
const DASH: Record<string, string> = { hidden: "5 3", centre: "10 3 2 3", break: "" };

function Drawn({
  shape,
  place,
  active,
  onPart,
}: {
  shape: Shape;
  place: Place;
  active: boolean;
  onPart?: (part: string) => void;
}) {
  const thin = shape.style === "centre" || shape.style === "hidden";
  const common = {
    stroke: active ? "#8f6411" : shape.style === "centre" ? "#a0aaa5" : "#1e2926",
    strokeWidth: active ? 2 : thin ? 0.7 : 1.2,
    strokeDasharray: DASH[shape.style],
    onClick: onPart && (() => onPart(shape.part)),
    style: onPart && { cursor: "pointer" },
  };
  const filled = shape.style === "cut" && shape.part !== "plate" ? "url(#hatch)" : (PART_FILL[shape.part] ?? "none");
  if ("centre" in shape)
    return (
      <circle
        cx={place.x(shape.centre[0])}
        cy={place.y(shape.centre[1])}
        r={shape.radius * place.scale}
        fill={filled}
        {...common}
      />
    );
  const path = shape.points.map((p) => `${place.x(p[0])},${place.y(p[1])}`).join(" ");
  if (shape.style === "break")
    return <polyline points={zigzag(shape.points, place)} fill="none" {...common} strokeWidth={0.8} />;
  return shape.closed ? (
    <polygon points={path} fill={filled} fillOpacity={shape.part === "plate" ? 0.75 : 1} {...common} />
  ) : (
    <polyline points={path} fill="none" {...common} />
  );
}

/** A break line: straight with one Z in its middle. */
function zigzag([a, b]: Point[], place: Place) {
  const [ax, ay, bx, by] = [place.x(a[0]), place.y(a[1]), place.x(b[0]), place.y(b[1])];
  const size = Math.hypot(bx - ax, by - ay) || 1;
  const [ux, uy] = [(bx - ax) / size, (by - ay) / size];
  const at = (t: number, off: number) => `${ax + ux * t - uy * off},${ay + uy * t + ux * off}`;
  const mid = size / 2;
  return [at(0, 0), at(mid - 6, 0), at(mid - 2, 7), at(mid + 2, -7), at(mid + 6, 0), at(size, 0)].join(" ");
}

function DimensionLine({
  dim,
  place,
  active,
  onPart,
}: {
  dim: Dimension;
  place: Place;
  active: boolean;
  onPart?: (part: string) => void;
}) {
  const [ax, ay, bx, by] = [place.x(dim.a[0]), place.y(dim.a[1]), place.x(dim.b[0]), place.y(dim.b[1])];
  const upright = Math.abs(bx - ax) < Math.abs(by - ay);
  const off = upright ? dim.offset * 0.72 : -dim.offset * 0.72;
  const [x1, y1, x2, y2] = upright
    ? [Math.max(ax, bx) + off, ay, Math.max(ax, bx) + off, by]
    : [ax, ay + off, bx, by + off];
  const colour = active ? "#8f6411" : "#3c4a45";
  const gap = off > 0 ? 4 : -4;
  const tight = upright ? Math.abs(y2 - y1) < 15 : Math.abs(x2 - x1) < dim.text.length * 6.2;
  const aside = tight && !upright && dim.side !== "below";
  const [tx, ty] = upright
    ? [x1 + 5, (y1 + y2) / 2 + 3.5]
    : aside
      ? [dim.side === "left" ? Math.min(x1, x2) - 7 : Math.max(x1, x2) + 7, y1 + 3.5]
      : [(x1 + x2) / 2, y1 + (tight ? (off > 0 ? 12 : -5) : -3)];
  const anchor = upright ? "start" : aside ? (dim.side === "left" ? "end" : "start") : "middle";
  return (
    <g
      stroke={colour}
      strokeWidth={active ? 1.4 : 0.7}
      fill={colour}
      onClick={dim.parameter && onPart ? () => onPart(dim.parameter) : undefined}
      style={dim.parameter && onPart ? { cursor: "pointer" } : undefined}
    >
      {upright ? (
        <>
          <line x1={ax + gap} y1={ay} x2={x1 + 3} y2={ay} />
          <line x1={bx + gap} y1={by} x2={x1 + 3} y2={by} />
        </>
      ) : (
        <>
          <line x1={ax} y1={ay + gap} x2={ax} y2={y1 + (off > 0 ? 3 : -3)} />
          <line x1={bx} y1={by + gap} x2={bx} y2={y1 + (off > 0 ? 3 : -3)} />
        </>
      )}
      <line x1={x1} y1={y1} x2={x2} y2={y2} />
      {[
        [x1, y1],
        [x2, y2],
      ].map(([x, y]) => (
        <line key={`${x},${y}`} x1={x - 3} y1={y + 3} x2={x + 3} y2={y - 3} strokeWidth={1.4} />
      ))}
      <text x={tx} y={ty} stroke="white" strokeWidth={3} paintOrder="stroke" fontSize={10.5} textAnchor={anchor}>
        {dim.text}
      </text>
    </g>
  );
}

/** Lettering at the end of a leader; a weld note carries the symbol of a fillet on both sides. */
function Leader({ note, place, width }: { note: Note; place: Place; width: number }) {
  const [ax, ay] = [place.x(note.at[0]), place.y(note.at[1])];
  const end = note.align === "end";
  const rawX = place.x(note.to[0]);
  const tx = end ? Math.max(rawX, 56) : Math.min(rawX, width - 40);
  const ty = place.y(note.to[1]);
  if (note.align === "middle")
    return (
      <text x={tx} y={ty} fontSize={10.5} textAnchor="middle">
        {note.text}
      </text>
    );
  const elbow = end ? tx + 4 : tx - 4;
  return (
    <g fontSize={10.5} fill="#1e2926">
      <polyline
        points={`${ax},${ay} ${elbow + (end ? 12 : -12)},${ty} ${elbow},${ty}`}
        fill="none"
        stroke="#3c4a45"
        strokeWidth={0.8}
      />
      {note.weld ? (
        <Weld x={elbow} y={ty} text={note.text} />
      ) : (
        <>
          <circle cx={ax} cy={ay} r={1.8} />
          <text
            x={tx}
            y={ty + 3.5}
            textAnchor={end ? "end" : "start"}
            stroke="white"
            strokeWidth={3}
            paintOrder="stroke"
          >
            {note.text}
          </text>
        </>
      )}
    </g>
  );
}

function Weld({ x, y, text }: { x: number; y: number; text: string }) {
  const [size, electrode] = text.split(" ");
  const left = x - 46;
  return (
    <g stroke="#3c4a45" strokeWidth={0.9} fill="none">
      <line x1={x} y1={y} x2={left} y2={y} />
      <path
        d={`M${left + 22} ${y - 9}V${y + 9}M${left + 22} ${y - 9}L${left + 31} ${y}M${left + 22} ${y + 9}L${left + 31} ${y}`}
      />
      <g stroke="none" fill="#1e2926" fontSize={9.5} textAnchor="end">
        <text x={left + 19} y={y - 3}>
          {size}
        </text>
        <text x={left + 19} y={y + 10}>
          {size}
        </text>
        <text x={left + 19} y={y + 23}>
          {electrode}
        </text>
      </g>
    </g>
  );
}

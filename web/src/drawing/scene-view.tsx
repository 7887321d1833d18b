import { memo, type ReactNode } from "react";
import type { Dimension, Note, Point, Shape, View } from "../api/types";

/** One view of a drawing as SVG; lettering keeps its size whatever the scale. Drawn again where it is another. */
export const SceneView = memo(function SceneView({
  view,
  width,
  height,
  active,
  onPart,
  over,
}: {
  view: View;
  width: number;
  height: number;
  active?: string;
  onPart?: (part: string) => void;
  over?: (place: Place) => ReactNode;
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
        {over?.(place)}
        {view.dimensions.map((dim, k) => (
          <DimensionLine
            key={`${dim.text}${k}`}
            dim={dim}
            place={place}
            active={Boolean(active) && active === dim.parameter}
            onPart={onPart}
          />
        ))}
        {view.notes.map((note, k) => (
          <Leader
            key={`${note.text}${k}`}
            note={note}
            place={place}
            active={Boolean(active) && active === note.part}
            onPart={onPart}
          />
        ))}
      </svg>
      <figcaption className="text-center text-xs font-semibold uppercase tracking-wider text-faint">
        {view.title}
      </figcaption>
    </figure>
  );
});

export interface Place {
  x: (v: number) => number;
  y: (v: number) => number;
  scale: number;
  letter: number;
}

const MARGIN = 5;

/** All that is drawn, its lettering too, fits; what is left over stands above, so that the title is right below. */
function fit(view: View, width: number, height: number): Place {
  const [x0, y0, x1, y1] = view.extent;
  const scale = Math.min((width - 2 * MARGIN) / (x1 - x0), (height - 2 * MARGIN) / (y1 - y0));
  const dx = (width - (x1 - x0) * scale) / 2;
  return {
    x: (v) => dx + (v - x0) * scale,
    y: (v) => height - MARGIN - (v - y0) * scale,
    scale,
    letter: view.lettering * scale,
  };
}

const DASH: Record<string, string> = { hidden: "5 3", centre: "10 3 2 3", break: "" };
/** What the shop makes for the connection is tinted. */
const made = (part: string) => /plate|angle|lug|filler/.test(part);
const solid = (part: string) => /bolt|anchor/.test(part);

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
  if ("points" in shape && (shape.style === "face" || shape.style === "hatch"))
    return <Region {...{ shape, place, active, onPart }} />;
  const thin = ["centre", "hidden", "beside"].includes(shape.style);
  const pale = shape.style === "centre" || shape.style === "beside";
  const common = {
    stroke: active ? "#8f6411" : pale ? "#a0aaa5" : "#1e2926",
    strokeWidth: active ? 2 : thin ? 0.7 : shape.style === "cut" ? 1.6 : 1.2,
    strokeDasharray: DASH[shape.style],
    onClick: onPart && (() => onPart(shape.part)),
    style: onPart && { cursor: "pointer" },
  };
  const filled =
    shape.style === "field" ? "#1e2926" : solid(shape.part) && shape.style === "outline" ? "#ffffff" : "none";
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
    <polygon points={path} fill={filled} {...common} />
  ) : (
    <polyline points={path} fill="none" {...common} />
  );
}

/** A surface that is seen, or what is cut: tinted where the shop makes it, hatched where it is cut. */
function Region({
  shape,
  place,
  active,
  onPart,
}: {
  shape: Extract<Shape, { points: unknown }>;
  place: Place;
  active: boolean;
  onPart?: (part: string) => void;
}) {
  const ring = (points: Point[]) => `M${points.map((p) => `${place.x(p[0])} ${place.y(p[1])}`).join("L")}Z`;
  const path = [shape.points, ...shape.holes].map(ring).join("");
  const picks = { onClick: onPart && (() => onPart(shape.part)), style: onPart && { cursor: "pointer" } };
  const cut = shape.part.includes("weld") ? "#1e2926" : "url(#hatch)";
  return (
    <g fillRule="evenodd" stroke="none" {...picks}>
      <path d={path} fill={made(shape.part) ? (active ? "#d9a94a" : "#f1dfb6") : "#ffffff"} />
      {shape.style === "hatch" && <path d={path} fill={cut} />}
    </g>
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

function Lines({ points, place, width }: { points: Point[][]; place: Place; width: number }) {
  return points.map((line) => (
    <polyline
      key={line.join()}
      points={line.map((p) => `${place.x(p[0])},${place.y(p[1])}`).join(" ")}
      fill="none"
      strokeWidth={width}
    />
  ));
}

interface Lettered {
  place: Place;
  active: boolean;
  onPart?: (part: string) => void;
}

/** What a click on lettering picks. */
function picks(part: string, onPart?: (part: string) => void) {
  return part && onPart ? { onClick: () => onPart(part), style: { cursor: "pointer" } } : {};
}

function DimensionLine({ dim, place, active, onPart }: Lettered & { dim: Dimension }) {
  const colour = active ? "#835a0c" : "#3c4a45";
  const tick = place.letter * 0.3;
  return (
    <g stroke={colour} fill={colour} {...picks(dim.parameter, onPart)}>
      <Lines points={dim.extensions} place={place} width={0.6} />
      <Lines points={[dim.line]} place={place} width={active ? 1.4 : 0.7} />
      {dim.line.map(([x, y]) => (
        <line
          key={`${x},${y}`}
          x1={place.x(x) - tick}
          y1={place.y(y) + tick}
          x2={place.x(x) + tick}
          y2={place.y(y) - tick}
          strokeWidth={1.4}
        />
      ))}
      <text
        x={place.x(dim.place[0])}
        y={place.y(dim.place[1])}
        stroke="none"
        fontSize={place.letter}
        textAnchor={dim.anchor as "start"}
      >
        {dim.text}
      </text>
    </g>
  );
}

/** Lettering with its leader, an arrow at what it names; a weld note carries the symbol of a fillet on both sides. */
function Leader({ note, place, active, onPart }: Lettered & { note: Note }) {
  const [x, y] = [place.x(note.place[0]), place.y(note.place[1])];
  const first = note.leader[0];
  return (
    <g fontSize={place.letter} fill={active ? "#835a0c" : "#1e2926"} stroke="#3c4a45" {...picks(note.part, onPart)}>
      <Lines points={note.leader.length ? [note.leader] : []} place={place} width={0.8} />
      {first && <circle cx={place.x(first[0])} cy={place.y(first[1])} r={1.8} fill="#3c4a45" stroke="none" />}
      {note.weld || note.groove ? (
        <Weld note={note} x={x} y={y - place.letter * 0.36} letter={place.letter} />
      ) : (
        <text x={x} y={y} stroke="none" textAnchor={note.anchor as "start"}>
          {note.text}
        </text>
      )}
    </g>
  );
}

/** A fillet on both sides or on the arrow's, its size left of it, what it is made with in the tail, a circle where it goes
 * all around, a flag where it is made at the site. */
function Weld({ note, x, y, letter }: { note: Note; x: number; y: number; letter: number }) {
  const start = note.anchor === "start" ? x : x - 4.8 * letter;
  const at = start + 3.2 * letter;
  const high = 0.85 * letter;
  const way = note.anchor === "start" ? 1 : -1;
  const flag = way > 0 ? start : x;
  const tail = way > 0 ? start + 5.2 * letter : start - 0.4 * letter;
  const side = { x: at - 0.35 * letter, stroke: "none", textAnchor: "end" as const };
  const symbol = (way: number) =>
    note.groove
      ? `M${at} ${y + way * high}V${y}L${at + high} ${y + way * high}`
      : `M${at} ${y}V${y + way * high}L${at + high} ${y}`;
  const other = note.arrow_side ? "" : symbol(-1);
  return (
    <g strokeWidth={0.9} fill="none">
      <line x1={start - 0.4 * letter} y1={y} x2={start + 5.2 * letter} y2={y} />
      {note.dashed && (
        <line
          x1={start - 0.4 * letter}
          y1={y - 0.4 * letter}
          x2={start + 5.2 * letter}
          y2={y - 0.4 * letter}
          strokeDasharray={`${0.5 * letter} ${0.3 * letter}`}
        />
      )}
      <path d={`${other}${symbol(1)}`} />
      <path
        d={`M${tail} ${y}l${way * 0.6 * letter} ${0.6 * letter}M${tail} ${y}l${way * 0.6 * letter} ${-0.6 * letter}`}
      />
      {note.around && <circle cx={flag} cy={y} r={0.4 * letter} />}
      {note.field && (
        <path
          d={`M${flag} ${y}v${-2.2 * letter}l${0.9 * letter} ${0.45 * letter}l${-0.9 * letter} ${0.45 * letter}`}
          fill="#1e2926"
        />
      )}
      <g fill="#1e2926">
        {!note.arrow_side && (
          <text {...side} y={y - 0.3 * letter}>
            {note.weld}
          </text>
        )}
        <text {...side} y={y + 0.95 * letter}>
          {note.weld}
        </text>
        <text x={tail + way * 0.8 * letter} y={y + 0.36 * letter} stroke="none" textAnchor={way > 0 ? "start" : "end"}>
          {note.text}
        </text>
      </g>
    </g>
  );
}

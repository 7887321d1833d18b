import { type PointerEvent, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { level as heightText } from "../words";
import { type Colours, ROLES, remarked } from "./colours";
import type { Flat, FlatBar, Spot } from "./flat";
import { type Connection, markOf, type Whole } from "./whole";

interface Props {
  whole: Whole;
  flat: Flat;
  title: string;
  colours: Colours;
  visible: (member: number) => boolean;
  connections: Connection[];
  joint: string;
  member: string;
  picked: Set<string>;
  labels: string;
  boxing: boolean;
  onJoint: (joint: string) => void;
  onMember: (member: string) => void;
  onBox: (keys: string[]) => void;
}

type Window = { x: number; y: number; w: number; h: number };
const BUBBLE = 11; // pixels
const LETTER = 10.5;

/** A floor or a grid line's elevation as a drawing: members as wide as they are, their sections along them, joints to be picked. */
export function Sheet(props: Props) {
  const { whole, flat, connections, colours, picked, joint, boxing } = props;
  const frame = useRef<SVGSVGElement>(null);
  const [size, setSize] = useState({ w: 1000, h: 700 });
  const [window_, setWindow] = useState<Window | null>(null);
  const fitted = useMemo(() => fit(flat.box, size), [flat, size]);
  const shown = window_ ?? fitted;
  const per = shown.w / size.w; // mm of the model to a pixel
  useEffect(() => {
    if (flat) setWindow(null);
  }, [flat]);
  useEffect(() => {
    const own = frame.current;
    if (!own) return;
    const watch = new ResizeObserver(() => setSize({ w: own.clientWidth || 1000, h: own.clientHeight || 700 }));
    watch.observe(own);
    return () => watch.disconnect();
  }, []);
  const spotOf = useCallback(
    (event: { clientX: number; clientY: number }): Spot => {
      const box = frame.current?.getBoundingClientRect() ?? { left: 0, top: 0 };
      return [shown.x + (event.clientX - box.left) * per, shown.y + (event.clientY - box.top) * per];
    },
    [shown, per],
  );
  useEffect(() => {
    const own = frame.current;
    if (!own) return;
    const zoom = (event: WheelEvent) => {
      event.preventDefault();
      const [x, y] = spotOf(event);
      const by = Math.exp(event.deltaY * 0.0015);
      setWindow({ x: x + (shown.x - x) * by, y: y + (shown.y - y) * by, w: shown.w * by, h: shown.h * by });
    };
    own.addEventListener("wheel", zoom, { passive: false });
    return () => own.removeEventListener("wheel", zoom);
  }, [shown, spotOf]);
  const marks = useMemo(
    () =>
      connections.flatMap((c) => {
        const at = markAt(whole, flat, c, 9 * per);
        return at ? [{ c, at }] : [];
      }),
    [connections, whole, flat, per],
  );
  const drag = useDrag(shown, per, setWindow, spotOf, boxing, (a, b) =>
    props.onBox(marks.filter(({ at }) => between(at, a, b)).map(({ c }) => c.connection)),
  );
  const { visible } = props;
  const named = useMemo(() => middles(flat.bars, whole, visible), [flat, whole, visible]);
  const nodes = useMemo(() => [...new Set(marks.map(({ c }) => c.joint))], [marks]);
  return (
    <svg
      ref={frame}
      className={`h-full w-full select-none ${boxing ? "cursor-crosshair" : "cursor-grab"}`}
      viewBox={`${shown.x} ${shown.y} ${shown.w} ${shown.h}`}
      role="img"
      aria-label={props.title}
      {...drag.handlers}
    >
      <title>{props.title}</title>
      <Lines {...props} per={per} />
      {flat.bars.map(
        (bar) => props.visible(bar.member) && <BarLine key={bar.member} bar={bar} per={per} named={named} {...props} />,
      )}
      {flat.stubs.map((stub) => {
        const m = whole.model.members[stub.member];
        return (
          props.visible(stub.member) && (
            <g
              key={stub.member}
              transform={`translate(${stub.at[0]} ${stub.at[1]}) rotate(${stub.turn})`}
              className="cursor-pointer"
              onClick={() => props.onMember(m.member)}
            >
              <Section
                shape={m.shape}
                depth={Math.max(m.depth, 7 * per)}
                width={Math.max(m.width, 7 * per)}
                per={per}
              />
            </g>
          )
        );
      })}
      {props.labels === "joints" &&
        nodes.map((name) => {
          const spot = flat.spot(whole.node.get(name) ?? -1);
          return spot && <Text key={name} at={[spot[0] + 6 * per, spot[1] - 6 * per]} per={per} text={name} faint />;
        })}
      {marks.map(({ c, at }) => (
        <Mark
          key={c.connection}
          c={c}
          at={at}
          per={per}
          colour={picked.has(c.connection) ? "#d9a441" : colours.of(c)}
          chosen={picked.has(c.connection) || c.joint === joint}
          onPick={() => props.onJoint(c.joint)}
        />
      ))}
      {props.labels === "used" &&
        thinned(marks, per).map(({ c, at }) => (
          <Text
            key={c.connection}
            at={[at[0] + 7 * per, at[1] - 5 * per]}
            per={per}
            text={c.utilisation.toFixed(2)}
            anchor="start"
          />
        ))}
      {joint && <Ring spot={flat.spot(whole.node.get(joint) ?? -1)} per={per} />}
      {drag.box && (
        <rect
          x={Math.min(drag.box[0][0], drag.box[1][0])}
          y={Math.min(drag.box[0][1], drag.box[1][1])}
          width={Math.abs(drag.box[0][0] - drag.box[1][0])}
          height={Math.abs(drag.box[0][1] - drag.box[1][1])}
          fill="#d9a44133"
          stroke="#835a0c"
          strokeWidth={per}
        />
      )}
    </svg>
  );
}

function fit([x0, y0, x1, y1]: Flat["box"], size: { w: number; h: number }): Window {
  const [left, right, top, bottom] = [60, 40, 70, 100]; // pixels kept free for what stands over the drawing
  const per = Math.max(
    (x1 - x0) / Math.max(size.w - left - right, 50),
    (y1 - y0) / Math.max(size.h - top - bottom, 50),
    1,
  );
  const [w, h] = [size.w * per, size.h * per];
  const spare = [size.w - left - right - (x1 - x0) / per, size.h - top - bottom - (y1 - y0) / per];
  return { x: x0 - (left + spare[0] / 2) * per, y: y0 - (top + spare[1] / 2) * per, w, h };
}

const between = ([x, y]: Spot, a: Spot, b: Spot) =>
  x >= Math.min(a[0], b[0]) && x <= Math.max(a[0], b[0]) && y >= Math.min(a[1], b[1]) && y <= Math.max(a[1], b[1]);

/** A connection's mark on the sheet, on the side of its member where that is in the sheet, else at its joint. */
function markAt(whole: Whole, flat: Flat, c: Connection, inward: number): Spot | null {
  const node = whole.node.get(c.joint) ?? -1;
  const from = flat.spot(node);
  const of = whole.model.members[whole.member.get(c.member) ?? -1];
  if (!from || !of) return null;
  const far = flat.spot(of.i === node ? of.j : of.i);
  if (!far) return markOf(whole, c, 0) ? from : null;
  const span = Math.hypot(far[0] - from[0], far[1] - from[1]);
  const part = Math.min(inward / Math.max(span, 1), 0.3);
  return [from[0] + (far[0] - from[0]) * part, from[1] + (far[1] - from[1]) * part];
}

/** Drag to move the sheet, or to draw a box. */
function useDrag(
  shown: Window,
  per: number,
  setWindow: (to: Window) => void,
  spotOf: (event: { clientX: number; clientY: number }) => Spot,
  boxing: boolean,
  onBox: (a: Spot, b: Spot) => void,
) {
  const from = useRef<{ x: number; y: number; window: Window; spot: Spot } | null>(null);
  const [box, setBox] = useState<[Spot, Spot] | null>(null);
  const handlers = {
    onPointerDown: (event: PointerEvent<SVGSVGElement>) => {
      if (event.button !== 0) return;
      from.current = { x: event.clientX, y: event.clientY, window: shown, spot: spotOf(event) };
      if (boxing) event.currentTarget.setPointerCapture(event.pointerId);
    },
    onPointerMove: (event: PointerEvent<SVGSVGElement>) => {
      const start = from.current;
      if (!start) return;
      if (boxing) setBox([start.spot, spotOf(event)]);
      else if (Math.hypot(event.clientX - start.x, event.clientY - start.y) > 3)
        setWindow({
          ...start.window,
          x: start.window.x - (event.clientX - start.x) * per,
          y: start.window.y - (event.clientY - start.y) * per,
        });
    },
    onPointerUp: () => {
      if (boxing && box) onBox(...box);
      from.current = null;
      setBox(null);
    },
    onPointerLeave: () => {
      if (!boxing) from.current = null;
    },
  };
  return { handlers, box };
}

function Lines({ flat, whole, per }: Props & { per: number }) {
  return flat.lines.map((line) => {
    const floor = whole.floors.find(
      (f) => f.name === line.name && Math.abs(f.z + line.a[1]) < 1 && line.a[1] === line.b[1],
    );
    const ends: [Spot, Spot] = [
      line.bubbles[0] && far(line.bubbles[0], line.b) > far(line.a, line.b) ? line.bubbles[0] : line.a,
      line.bubbles.length > 1
        ? line.bubbles[1]
        : line.bubbles[0] && far(line.bubbles[0], line.a) > far(line.b, line.a)
          ? line.bubbles[0]
          : line.b,
    ];
    return (
      <g key={`${line.name} ${line.a} ${line.b}`}>
        <line
          x1={ends[0][0]}
          y1={ends[0][1]}
          x2={ends[1][0]}
          y2={ends[1][1]}
          stroke="#a9b0a8"
          strokeWidth={0.8 * per}
          strokeDasharray={`${14 * per} ${4 * per} ${3 * per} ${4 * per}`}
        />
        {floor && (
          <Text
            at={[line.a[0] - 6 * per, line.a[1] + 4 * per]}
            per={per}
            text={`${floor.name}  ${heightText(floor.z, whole.model.system)}`}
            anchor="end"
          />
        )}
        {line.bubbles.map((spot) => (
          <g key={`${spot}`}>
            <circle cx={spot[0]} cy={spot[1]} r={BUBBLE * per} fill="#fdfcf9" stroke="#58635e" strokeWidth={per} />
            <Text at={[spot[0], spot[1] + 0.36 * LETTER * per]} per={per} text={line.name} strong />
          </g>
        ))}
      </g>
    );
  });
}

/** Whose utilisation is written: the most used first, as many as there is room for at this zoom. */
function thinned<T extends { c: Connection; at: Spot }>(marks: T[], per: number): T[] {
  const taken = new Set<string>();
  return [...marks]
    .filter(({ c }) => c.status === "pass" || c.status === "fail")
    .sort((a, b) => b.c.utilisation - a.c.utilisation)
    .filter(({ at }) => {
      const [x, y] = [Math.floor(at[0] / (30 * per)), Math.floor(at[1] / (13 * per))];
      const near = [-1, 0, 1].flatMap((dx) => [-1, 0, 1].map((dy) => `${x + dx},${y + dy}`));
      if (near.some((cell) => taken.has(cell))) return false;
      taken.add(`${x},${y}`);
      return true;
    });
}

const far = (a: Spot, b: Spot) => Math.hypot(a[0] - b[0], a[1] - b[1]);

function BarLine({
  bar,
  per,
  whole,
  colours,
  labels,
  member,
  named,
  onMember,
}: Props & { bar: FlatBar; per: number; named: Set<number> }) {
  const m = whole.model.members[bar.member];
  const length = far(bar.a, bar.b);
  const thick = Math.max(bar.thick, 2.2 * per);
  const text = bar.dashed ? "" : labels === "members" ? m.member : labels === "sections" ? m.section : "";
  const room = text.length * LETTER * (labels === "sections" ? 0.5 : 0.6);
  const written = text && length / per > room + 4 && (labels !== "sections" || named.has(bar.member));
  const turn = (Math.atan2(bar.b[1] - bar.a[1], bar.b[0] - bar.a[0]) * 180) / Math.PI;
  const read = turn > 90 || turn <= -90 ? turn + 180 : turn;
  const [x, y] = [(bar.a[0] + bar.b[0]) / 2, (bar.a[1] + bar.b[1]) / 2];
  return (
    <>
      <line
        x1={bar.a[0]}
        y1={bar.a[1]}
        x2={bar.b[0]}
        y2={bar.b[1]}
        stroke={m.member === member ? "#d9a441" : (colours.ofMember?.(bar.member) ?? ROLES[m.role] ?? "#b4bdb8")}
        strokeWidth={bar.dashed ? 1.6 * per : thick}
        strokeDasharray={bar.dashed ? `${6 * per} ${4 * per}` : undefined}
        className="cursor-pointer hover:opacity-70"
        onClick={() => onMember(m.member)}
      />
      {written && (
        <text
          transform={`translate(${x} ${y}) rotate(${read})`}
          y={0.36 * LETTER * per}
          textAnchor="middle"
          fontSize={LETTER * per}
          fill="#1e2926"
          stroke="#f5f4ef"
          strokeWidth={3 * per}
          paintOrder="stroke"
          pointerEvents="none"
        >
          {text}
        </text>
      )}
    </>
  );
}

/** Of each piece the longest element that is seen, the one nearest to its middle: a piece is named once. */
function middles(bars: FlatBar[], whole: Whole, visible: (member: number) => boolean): Set<number> {
  const pieces = new Map<number, FlatBar[]>();
  for (const bar of bars) {
    if (bar.dashed || !visible(bar.member)) continue;
    const { piece } = whole.model.members[bar.member];
    const own = pieces.get(piece);
    if (own) own.push(bar);
    else pieces.set(piece, [bar]);
  }
  return new Set(
    [...pieces.values()].map((own) => {
      const centre = own.reduce(
        ([x, y], b) => [x + (b.a[0] + b.b[0]) / 2 / own.length, y + (b.a[1] + b.b[1]) / 2 / own.length],
        [0, 0],
      );
      const off = (b: FlatBar) => Math.hypot((b.a[0] + b.b[0]) / 2 - centre[0], (b.a[1] + b.b[1]) / 2 - centre[1]);
      const longest = Math.max(...own.map((b) => far(b.a, b.b)));
      return own.filter((b) => far(b.a, b.b) > 0.99 * longest).sort((p, q) => off(p) - off(q))[0].member;
    }),
  );
}

function Section({ shape, depth, width, per }: { shape: string; depth: number; width: number; per: number }) {
  const look = { fill: "#58635e", stroke: "#3c4642", strokeWidth: 0.4 * per };
  if (/ROUND|PIPE/.test(shape))
    return <circle r={depth / 2} fill="none" stroke="#3c4642" strokeWidth={Math.max(depth * 0.08, 1.5 * per)} />;
  if (/^HSS/.test(shape))
    return (
      <rect
        x={-depth / 2}
        y={-width / 2}
        width={depth}
        height={width}
        fill="none"
        stroke="#3c4642"
        strokeWidth={Math.max(depth * 0.08, 1.5 * per)}
      />
    );
  const [flange, web] = [Math.max(depth * 0.07, 1.4 * per), Math.max(width * 0.06, 1.2 * per)];
  return (
    <>
      <rect x={-depth / 2} y={-width / 2} width={flange} height={width} {...look} />
      <rect x={depth / 2 - flange} y={-width / 2} width={flange} height={width} {...look} />
      <rect x={-depth / 2} y={-web / 2} width={depth} height={web} {...look} />
    </>
  );
}

function Mark({
  c,
  at: [x, y],
  per,
  colour,
  chosen,
  onPick,
}: {
  c: Connection;
  at: Spot;
  per: number;
  colour: string;
  chosen: boolean;
  onPick: () => void;
}) {
  const r = (chosen ? 6 : 4) * per;
  const shape = remarked(c) ? (
    <path d={`M${x} ${y - 1.2 * r}L${x + 1.1 * r} ${y + 0.9 * r}L${x - 1.1 * r} ${y + 0.9 * r}Z`} />
  ) : c.status === "pass" ? (
    <circle cx={x} cy={y} r={r} />
  ) : c.status === "fail" ? (
    <path d={`M${x - 1.3 * r} ${y}L${x} ${y - 1.3 * r}L${x + 1.3 * r} ${y}L${x} ${y + 1.3 * r}Z`} />
  ) : (
    <rect x={x - r} y={y - r} width={2 * r} height={2 * r} />
  );
  return (
    <g
      fill={colour}
      stroke={chosen ? "#835a0c" : "#fdfcf9"}
      strokeWidth={(chosen ? 1.6 : 0.8) * per}
      className="cursor-pointer"
      onClick={onPick}
    >
      {shape}
    </g>
  );
}

function Ring({ spot, per }: { spot: Spot | null; per: number }) {
  return (
    spot && (
      <circle
        cx={spot[0]}
        cy={spot[1]}
        r={17 * per}
        fill="none"
        stroke="#d9a441"
        strokeWidth={3 * per}
        pointerEvents="none"
      />
    )
  );
}

function Text({
  at,
  per,
  text,
  anchor = "middle",
  strong = false,
  faint = false,
}: {
  at: Spot;
  per: number;
  text: string;
  anchor?: "start" | "end" | "middle";
  strong?: boolean;
  faint?: boolean;
}) {
  return (
    <text
      x={at[0]}
      y={at[1]}
      fontSize={LETTER * per}
      textAnchor={anchor}
      fontWeight={strong ? 600 : 400}
      fill={faint ? "#58635e" : "#1e2926"}
      pointerEvents="none"
    >
      {text}
    </text>
  );
}

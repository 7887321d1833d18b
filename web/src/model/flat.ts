import type { Floor, Point, Whole } from "./whole";
import { NEAR } from "./whole";

/** A point of the sheet, mm, y down. */
export type Spot = [number, number];

export interface FlatBar {
  member: number;
  a: Spot;
  b: Spot;
  thick: number; // mm, of the section as it is seen
  dashed: boolean;
}

/** An upright member seen from its end. */
export interface Stub {
  member: number;
  at: Spot;
  turn: number; // degrees that its depth is turned by from the sheet's x, clockwise
}

export interface Line {
  name: string;
  a: Spot;
  b: Spot;
  bubbles: Spot[];
}

export interface Flat {
  bars: FlatBar[];
  stubs: Stub[];
  lines: Line[];
  /** where a node is on the sheet; null where it is not in it */
  spot: (node: number) => Spot | null;
  box: [number, number, number, number];
}

const OUT = 2600; // mm that bubbles stand away from what is drawn
const REACH = 3000; // mm that a grid line counts past its ends

/** A floor from above: what lies in it, the columns that stop or pass there, braces that rise to it dashed. */
export function planOf(whole: Whole, floor: Floor): Flat {
  const { nodes, members, grids } = whole.model;
  const at = (p: Point): Spot => [p[0], -p[1]];
  const on = (node: number) => Math.abs(nodes[node].xyz[2] - floor.z) <= NEAR;
  const bars: FlatBar[] = [];
  const stubs = new Map<number, Stub>();
  members.forEach((m, k) => {
    const both = on(m.i) && on(m.j);
    const one = on(m.i) ? m.i : on(m.j) ? m.j : -1;
    if (one < 0) return;
    const [a, b] = [at(nodes[m.i].xyz), at(nodes[m.j].xyz)];
    const upright = Math.hypot(a[0] - b[0], a[1] - b[1]) < 50;
    if (upright) {
      const under = nodes[one === m.i ? m.j : m.i].xyz[2] < floor.z;
      if (under || !stubs.has(one))
        stubs.set(one, { member: k, at: a, turn: (Math.atan2(-m.up[1], m.up[0]) * 180) / Math.PI });
    } else if (both || (m.role !== "column" && nodes[one === m.i ? m.j : m.i].xyz[2] < floor.z)) {
      bars.push({ member: k, a, b, thick: m.width, dashed: !both });
    }
  });
  const lines = grids.map((g) => {
    const [a, b]: Spot[] = [
      [g.start[0], -g.start[1]],
      [g.end[0], -g.end[1]],
    ];
    return { name: g.grid, a, b };
  });
  const bubbled = withBubbles(lines);
  const spots = [...bars.flatMap((bar) => [bar.a, bar.b]), ...[...stubs.values()].map((s) => s.at)];
  return {
    bars,
    stubs: [...stubs.values()],
    lines: bubbled,
    spot: (node) => (on(node) ? at(nodes[node].xyz) : null),
    box: around([...spots, ...bubbled.flatMap((l) => [l.a, l.b, ...l.bubbles])]),
  };
}

/** What stands in one grid line, from its side: along the line to the right, up the sheet; levels across, the other lines upright. */
export function elevationOf(whole: Whole, grid: string): Flat {
  const { nodes, members, grids } = whole.model;
  const parts: { a: Spot; way: Spot; length: number; from: number }[] = [];
  let from = 0;
  for (const g of grids.filter((one) => one.grid === grid)) {
    const length = Math.hypot(g.end[0] - g.start[0], g.end[1] - g.start[1]);
    const way: Spot = [(g.end[0] - g.start[0]) / length, (g.end[1] - g.start[1]) / length];
    parts.push({ a: g.start as Spot, way, length, from });
    from += length;
  }
  const along = (x: number, y: number): number | null => {
    for (const [k, { a, way, length, from }] of parts.entries()) {
      const t = (x - a[0]) * way[0] + (y - a[1]) * way[1];
      const off = Math.abs((x - a[0]) * -way[1] + (y - a[1]) * way[0]);
      const [low, high] = [k === 0 ? -REACH : -NEAR, k === parts.length - 1 ? length + REACH : length + NEAR];
      if (off <= NEAR && t >= low && t <= high) return from + t;
    }
    return null;
  };
  const spots = nodes.map(({ xyz: [x, y, z] }): Spot | null => {
    const u = along(x, y);
    return u === null ? null : [u, -z];
  });
  const bars: FlatBar[] = [];
  members.forEach((m, k) => {
    const [a, b] = [spots[m.i], spots[m.j]];
    if (a && b && Math.hypot(a[0] - b[0], a[1] - b[1]) > 50) {
      const upright = Math.abs(a[0] - b[0]) < 50;
      const inLine = parts.some((p) => Math.abs(m.up[0] * p.way[0] + m.up[1] * p.way[1]) > 0.7);
      bars.push({ member: k, a, b, thick: upright && !inLine ? m.width : m.depth, dashed: false });
    }
  });
  const drawn = bars.flatMap((bar) => [bar.a, bar.b]);
  const [x0, y0, x1, y1] = around(drawn);
  const crossing: Line[] = [];
  for (const g of grids.filter((one) => one.grid !== grid)) {
    for (const p of parts) {
      const met = crossingOf(p, g.start as Spot, g.end as Spot);
      if (met !== null)
        crossing.push({
          name: g.grid,
          a: [p.from + met, y1 + 600],
          b: [p.from + met, y0 - OUT],
          bubbles: [[p.from + met, y0 - OUT]],
        });
    }
  }
  const floors = whole.floors.map(
    (f): Line => ({ name: f.name, a: [x0 - OUT, -f.z], b: [x1 + OUT / 2, -f.z], bubbles: [] }),
  );
  const lines = [...crossing, ...floors.filter((l) => l.a[1] >= y0 - 500 && l.a[1] <= y1 + 500)];
  return {
    bars,
    stubs: [],
    lines,
    spot: (node) => spots[node],
    box: around([...drawn, ...lines.flatMap((l) => [l.a, l.b]), [x0 - 2.6 * OUT, y0]]),
  };
}

function crossingOf(part: { a: Spot; way: Spot; length: number }, start: Spot, end: Spot): number | null {
  const way: Spot = [end[0] - start[0], end[1] - start[1]];
  const cross = part.way[0] * way[1] - part.way[1] * way[0];
  if (Math.abs(cross) < 1e-6 * Math.hypot(way[0], way[1])) return null;
  const [dx, dy] = [start[0] - part.a[0], start[1] - part.a[1]];
  const t = (dx * way[1] - dy * way[0]) / cross;
  const s = (dx * part.way[1] - dy * part.way[0]) / cross;
  return t >= -NEAR && t <= part.length + NEAR && s >= -0.01 && s <= 1.01 ? t : null;
}

/** Bubbles at the outer ends of lines: not where a line goes on after a kink. */
function withBubbles(lines: Omit<Line, "bubbles">[]): Line[] {
  return lines.map((line) => {
    const length = Math.hypot(line.b[0] - line.a[0], line.b[1] - line.a[1]) || 1;
    const way: Spot = [(line.b[0] - line.a[0]) / length, (line.b[1] - line.a[1]) / length];
    const free = (p: Spot) =>
      !lines.some(
        (o) => o !== line && o.name === line.name && [o.a, o.b].some((q) => Math.hypot(q[0] - p[0], q[1] - p[1]) < 10),
      );
    const bubbles: Spot[] = [];
    if (free(line.a)) bubbles.push([line.a[0] - way[0] * OUT, line.a[1] - way[1] * OUT]);
    if (free(line.b)) bubbles.push([line.b[0] + way[0] * OUT, line.b[1] + way[1] * OUT]);
    return { ...line, bubbles };
  });
}

function around(spots: Spot[]): [number, number, number, number] {
  if (!spots.length) return [0, 0, 1000, 1000];
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const [x, y] of spots) {
    x0 = Math.min(x0, x);
    y0 = Math.min(y0, y);
    x1 = Math.max(x1, x);
    y1 = Math.max(y1, y);
  }
  return [x0, y0, x1, y1];
}

import type { PatternBoundary, PatternInFull } from "../api/types";

export const W = 720;
export const H = 360;
const PAD = 46;
const MOST = 3; // of the points' own span that lines may widen the picture to, on each side

export type Peaks = PatternInFull["places"][number]["peaks"];
export const LINES = ["#3b6ea8", "#7a5c99", "#4d8c8c"];

export interface Scale {
  low: [number, number];
  high: [number, number];
  x: (value: number) => number;
  y: (value: number) => number;
}

/** The picture's window: all points, and as much of the lines as leaves the points large enough to be read. */
export function scaled(values: Float32Array, x: number, y: number, lines: PatternBoundary["lines"]): Scale {
  const low: [number, number] = [0, 0];
  const high: [number, number] = [0, 0];
  for (let k = 0; k < values.length; k += 6)
    for (const [side, at] of [x, y].entries()) {
      const value = values[k + at];
      if (value < low[side]) low[side] = value;
      if (value > high[side]) high[side] = value;
    }
  const span = [0, 1].map((side) => high[side] - low[side]);
  const wide = [low.slice(), high.slice()];
  for (const { points } of lines)
    for (const point of points)
      for (const side of [0, 1]) {
        const own = span[side] || Math.max(span[0], span[1], 1) / 2;
        low[side] = Math.min(low[side], Math.max(point[side], wide[0][side] - MOST * own));
        high[side] = Math.max(high[side], Math.min(point[side], wide[1][side] + MOST * own));
      }
  const sized = [0, 1].map((side) => high[side] - low[side] || 1);
  return {
    low,
    high,
    x: (value) => PAD + ((value - low[0]) / sized[0]) * (W - 2 * PAD),
    y: (value) => H - PAD - ((value - low[1]) / sized[1]) * (H - 2 * PAD),
  };
}

export interface Drawn {
  values: Float32Array;
  x: number;
  y: number;
  scale: Scale;
  actions: string[];
  peaks: Peaks;
  boundary?: PatternBoundary;
  picked: Set<number>;
}

/** Every action as a point; peaks ringed; the strength's lines; what governs as numbered diamonds; what is picked. */
export function draw(pen: CanvasRenderingContext2D, { values, x, y, scale, actions, peaks, boundary, picked }: Drawn) {
  pen.clearRect(0, 0, W, H);
  pen.strokeStyle = "#c9c7bb";
  pen.lineWidth = 1;
  pen.beginPath();
  pen.moveTo(scale.x(0), 0);
  pen.lineTo(scale.x(0), H);
  pen.moveTo(0, scale.y(0));
  pen.lineTo(W, scale.y(0));
  pen.stroke();
  pen.fillStyle = "rgba(131, 90, 12, 0.5)";
  for (let k = 0; k < values.length; k += 6)
    pen.fillRect(scale.x(values[k + x]) - 1.5, scale.y(values[k + y]) - 1.5, 3, 3);
  pen.fillStyle = "#22302c";
  for (const k of picked) pen.fillRect(scale.x(values[6 * k + x]) - 2.5, scale.y(values[6 * k + y]) - 2.5, 5, 5);
  boundary?.lines.forEach(({ points }, k) => {
    pen.strokeStyle = LINES[k % LINES.length];
    pen.lineWidth = 2;
    pen.setLineDash(k ? [6, 4] : []);
    pen.beginPath();
    points.forEach(([px, py], n) => {
      if (n) pen.lineTo(scale.x(px), scale.y(py));
      else pen.moveTo(scale.x(px), scale.y(py));
    });
    pen.closePath();
    pen.stroke();
  });
  pen.setLineDash([]);
  pen.strokeStyle = "#b0322a";
  pen.lineWidth = 1.5;
  for (const peak of peaks) ring(pen, scale.x(peak.values[x]), scale.y(peak.values[y]), 5);
  pen.font = "11px sans-serif";
  boundary?.governing.forEach((one, k) => {
    const [px, py] = [scale.x(one.values[x]), scale.y(one.values[y])];
    pen.fillStyle = one.utilisation > 1 ? "#b0322a" : "#22302c";
    pen.beginPath();
    pen.moveTo(px, py - 5);
    pen.lineTo(px + 5, py);
    pen.lineTo(px, py + 5);
    pen.lineTo(px - 5, py);
    pen.fill();
    if (k < 6) pen.fillText(String(k + 1), px + 7, py - 5);
  });
  pen.fillStyle = "#58635e";
  pen.font = "12px sans-serif";
  pen.fillText(actions[y], Math.min(scale.x(0) + 5, W - 30), 14);
  pen.fillText(actions[x], W - 24, Math.max(scale.y(0) - 5, 12));
}

function ring(pen: CanvasRenderingContext2D, x: number, y: number, r: number) {
  pen.beginPath();
  pen.arc(x, y, r, 0, 2 * Math.PI);
  pen.stroke();
}

export function decoded(text: string): Float32Array {
  const bytes = Uint8Array.from(atob(text), (c) => c.charCodeAt(0));
  return new Float32Array(bytes.buffer);
}

/** The points in a box of the picture, in pixels; the one nearest to it where it is hardly one. */
export function within(
  values: Float32Array,
  x: number,
  y: number,
  scale: Scale,
  a: [number, number],
  b: [number, number],
) {
  const [x0, x1] = [Math.min(a[0], b[0]), Math.max(a[0], b[0])];
  const [y0, y1] = [Math.min(a[1], b[1]), Math.max(a[1], b[1])];
  const click = x1 - x0 < 4 && y1 - y0 < 4;
  const found: number[] = [];
  let best = 64;
  let nearest = -1;
  for (let k = 0; k < values.length / 6; k++) {
    const [px, py] = [scale.x(values[6 * k + x]), scale.y(values[6 * k + y])];
    if (click) {
      const off = (px - x0) ** 2 + (py - y0) ** 2;
      if (off < best) [best, nearest] = [off, k];
    } else if (px >= x0 && px <= x1 && py >= y0 && py <= y1) found.push(k);
  }
  return click ? (nearest < 0 ? [] : [nearest]) : found;
}

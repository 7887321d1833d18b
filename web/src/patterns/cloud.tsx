import { type MouseEvent, useEffect, useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import { useAddress } from "../address";
import { usePoints } from "../api/queries";
import type { PatternInFull, System } from "../api/types";
import { Choice } from "../parts/choice";
import { toConnection } from "../paths";
import { amount } from "../words";

const W = 720;
const H = 340;
const PAD = 46;
const NEAR = 8;

type Peaks = PatternInFull["places"][number]["peaks"];

/** Every action of one place as a point, any two of them against each other; one that is picked names its connection and combination. */
export function Cloud({
  job,
  name,
  slot,
  system,
  peaks,
}: {
  job: string;
  name: string;
  slot: number;
  system: System;
  peaks: Peaks;
}) {
  const { data } = usePoints(job, name, slot);
  const [query, set] = useAddress();
  const canvas = useRef<HTMLCanvasElement>(null);
  const [picked, setPicked] = useState(-1);
  const values = useMemo(() => (data ? decoded(data.data) : new Float32Array()), [data]);
  const actions = data?.actions ?? [];
  const x = Math.max(actions.indexOf(query.get("x") ?? "V"), 0);
  const y = Math.max(actions.indexOf(query.get("y") ?? "N"), 0);
  const scale = useMemo(() => scaled(values, x, y), [values, x, y]);
  const count = values.length / 6;
  useEffect(() => {
    const pen = canvas.current?.getContext("2d");
    if (!pen || !count) return;
    draw(pen, values, x, y, scale, picked, peaks, actions);
  }, [values, x, y, scale, picked, count, peaks, actions]);
  if (!data) return <p className="mt-4 text-faint">Reading the points …</p>;
  if (!count) return <p className="mt-4 text-faint">There are no strength combinations to show.</p>;
  const unit = (k: number) => (k < 3 ? "kN" : "kN*m");
  const pick = (event: MouseEvent<HTMLCanvasElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const [px, py] = [((event.clientX - box.left) * W) / box.width, ((event.clientY - box.top) * H) / box.height];
    let best = NEAR * NEAR;
    let found = -1;
    for (let k = 0; k < count; k++) {
      const d = (scale.x(values[6 * k + x]) - px) ** 2 + (scale.y(values[6 * k + y]) - py) ** 2;
      if (d < best) {
        best = d;
        found = k;
      }
    }
    setPicked(found);
  };
  const combinations = data.combinations.length;
  const options = actions.map((action) => ({ value: action, words: action }));
  return (
    <section aria-label="All actions" className="mt-5">
      <div className="flex items-center gap-2">
        <h3 className="font-semibold">All {count.toLocaleString("en")} actions:</h3>
        <Choice label="Upwards" value={actions[y]} options={options} onChange={(value) => set("y", value)} />
        against
        <Choice label="Across" value={actions[x]} options={options} onChange={(value) => set("x", value)} />
        <span className="text-faint">peaks of any action ringed; click a point to see whose it is</span>
      </div>
      <canvas
        ref={canvas}
        width={W}
        height={H}
        onClick={pick}
        aria-label={`${actions[y]} against ${actions[x]} of ${count} actions`}
        role="img"
        className="mt-2 w-full max-w-[720px] cursor-crosshair rounded border border-line bg-white"
      />
      <p className="flex max-w-[720px] justify-between text-xs text-faint">
        <span>
          {actions[x]} from {amount(scale.low[0], unit(x), system)} to {amount(scale.high[0], unit(x), system)}
        </span>
        <span>
          {actions[y]} from {amount(scale.low[1], unit(y), system)} to {amount(scale.high[1], unit(y), system)}
        </span>
      </p>
      {picked >= 0 && (
        <p className="mt-1" role="status">
          <Link
            className="font-semibold text-brass-dark underline-offset-2 hover:underline"
            to={toConnection(job, data.connections[Math.floor(picked / combinations)])}
          >
            {data.connections[Math.floor(picked / combinations)]}
          </Link>{" "}
          in {data.combinations[picked % combinations]}:{" "}
          {actions.map((a, k) => `${a} ${amount(values[6 * picked + k], unit(k), system)}`).join(", ")}
        </p>
      )}
    </section>
  );
}

function decoded(text: string): Float32Array {
  const bytes = Uint8Array.from(atob(text), (c) => c.charCodeAt(0));
  return new Float32Array(bytes.buffer);
}

function scaled(values: Float32Array, x: number, y: number) {
  const low = [0, 0];
  const high = [0, 0];
  for (let k = 0; k < values.length; k += 6)
    for (const [side, at] of [x, y].entries()) {
      const value = values[k + at];
      if (value < low[side]) low[side] = value;
      if (value > high[side]) high[side] = value;
    }
  const span = (side: number) => high[side] - low[side] || 1;
  return {
    low,
    high,
    x: (value: number) => PAD + ((value - low[0]) / span(0)) * (W - 2 * PAD),
    y: (value: number) => H - PAD - ((value - low[1]) / span(1)) * (H - 2 * PAD),
  };
}

function draw(
  pen: CanvasRenderingContext2D,
  values: Float32Array,
  x: number,
  y: number,
  scale: ReturnType<typeof scaled>,
  picked: number,
  peaks: Peaks,
  actions: string[],
) {
  pen.clearRect(0, 0, W, H);
  pen.strokeStyle = "#dcdad0";
  pen.lineWidth = 1;
  pen.beginPath();
  pen.moveTo(scale.x(0), 0);
  pen.lineTo(scale.x(0), H);
  pen.moveTo(0, scale.y(0));
  pen.lineTo(W, scale.y(0));
  pen.stroke();
  pen.fillStyle = "rgba(131, 90, 12, 0.55)";
  for (let k = 0; k < values.length; k += 6)
    pen.fillRect(scale.x(values[k + x]) - 1.5, scale.y(values[k + y]) - 1.5, 3, 3);
  pen.strokeStyle = "#b0322a";
  pen.lineWidth = 1.5;
  for (const peak of peaks) ring(pen, scale.x(peak.values[x]), scale.y(peak.values[y]), 5);
  if (picked >= 0) {
    pen.strokeStyle = "#22302c";
    pen.lineWidth = 2.5;
    ring(pen, scale.x(values[6 * picked + x]), scale.y(values[6 * picked + y]), 7);
  }
  pen.fillStyle = "#58635e";
  pen.font = "12px sans-serif";
  pen.fillText(actions[y], scale.x(0) + 5, 14);
  pen.fillText(actions[x], W - 24, scale.y(0) - 5);
}

function ring(pen: CanvasRenderingContext2D, x: number, y: number, r: number) {
  pen.beginPath();
  pen.arc(x, y, r, 0, 2 * Math.PI);
  pen.stroke();
}

import { type PointerEvent, useEffect, useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import { useAddress } from "../address";
import { useBoundary, usePoints } from "../api/queries";
import type { Component, PatternBoundary, PatternPoints, System } from "../api/types";
import { Choice } from "../parts/choice";
import { Download } from "../parts/download";
import { share } from "../parts/status";
import { to, toConnection } from "../paths";
import { amount, plain, sentence, unitText } from "../words";
import { decoded, draw, H, LINES, type Peaks, scaled, W, within } from "./drawn";

const LINK = "text-brass-dark underline-offset-2 hover:underline";
const unit = (k: number) => (k < 3 ? "kN" : "kN*m");
const shownUnit = (k: number, system: System) => amount(0, unit(k), system).split(" ")[1];

/** Every action of one place as a point, any two of them against each other, with how far the connection's strength goes and what governs. */
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
  const values = useMemo(() => (data ? decoded(data.data) : new Float32Array()), [data]);
  const actions = data?.actions ?? [];
  const x = Math.max(actions.indexOf(query.get("x") ?? "V"), 0);
  const y = Math.max(actions.indexOf(query.get("y") ?? "N"), 0);
  const boundary = useBoundary(
    job,
    name,
    slot,
    (actions[x] ?? "V") as Component,
    (actions[y] ?? "N") as Component,
  ).data;
  const [picked, setPicked] = useState<Set<number>>(new Set());
  if (!data) return <p className="mt-4 text-faint">Reading the points …</p>;
  const count = values.length / 6;
  if (!count) return <p className="mt-4 text-faint">There are no strength combinations to show.</p>;
  const options = actions.map((action) => ({ value: action, words: action }));
  return (
    <section aria-label="All actions" className="mt-5">
      <div className="flex items-center gap-2">
        <h3 className="font-semibold">All {count.toLocaleString("en")} actions:</h3>
        <Choice label="Upwards" value={actions[y]} options={options} onChange={(value) => set("y", value)} />
        against
        <Choice label="Across" value={actions[x]} options={options} onChange={(value) => set("x", value)} />
        <span className="text-faint">peaks ringed; click a point, or draw a box round some</span>
      </div>
      <Picture
        values={values}
        x={x}
        y={y}
        actions={actions}
        peaks={peaks}
        boundary={boundary}
        picked={picked}
        system={system}
        onPick={(found) => setPicked(new Set(found))}
      />
      {boundary && <Strength boundary={boundary} />}
      <Picked job={job} name={name} data={data} values={values} picked={picked} system={system} />
      {boundary && boundary.governing.length > 0 && (
        <Governing job={job} boundary={boundary} system={system} actions={actions} />
      )}
    </section>
  );
}

interface Pictured {
  values: Float32Array;
  x: number;
  y: number;
  actions: string[];
  peaks: Peaks;
  boundary?: PatternBoundary;
  picked: Set<number>;
  system: System;
  onPick: (found: number[]) => void;
}

function Picture({ values, x, y, actions, peaks, boundary, picked, system, onPick }: Pictured) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [box, setBox] = useState<[[number, number], [number, number]] | null>(null);
  const scale = useMemo(() => scaled(values, x, y, boundary?.lines ?? []), [values, x, y, boundary]);
  useEffect(() => {
    const pen = canvas.current?.getContext("2d");
    if (pen) draw(pen, { values, x, y, scale, actions, peaks, boundary, picked });
  }, [values, x, y, scale, picked, peaks, actions, boundary]);
  const at = (event: PointerEvent<HTMLElement>): [number, number] => {
    const own = (canvas.current as HTMLCanvasElement).getBoundingClientRect();
    return [((event.clientX - own.left) * W) / own.width, ((event.clientY - own.top) * H) / own.height];
  };
  return (
    <>
      <div
        className="relative mt-2 max-w-[720px] cursor-crosshair touch-none"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          setBox([at(event), at(event)]);
        }}
        onPointerMove={(event) => box && setBox([box[0], at(event)])}
        onPointerUp={() => {
          if (box) onPick(within(values, x, y, scale, ...box));
          setBox(null);
        }}
      >
        <canvas
          ref={canvas}
          width={W}
          height={H}
          aria-label={`${actions[y]} against ${actions[x]} of ${values.length / 6} actions`}
          role="img"
          className="w-full rounded border border-line bg-white"
        />
        {box && (
          <span
            className="pointer-events-none absolute border border-brass-dark bg-brass/20"
            style={{
              left: `${(Math.min(box[0][0], box[1][0]) / W) * 100}%`,
              top: `${(Math.min(box[0][1], box[1][1]) / H) * 100}%`,
              width: `${(Math.abs(box[0][0] - box[1][0]) / W) * 100}%`,
              height: `${(Math.abs(box[0][1] - box[1][1]) / H) * 100}%`,
            }}
          />
        )}
      </div>
      <p className="flex max-w-[720px] justify-between text-xs text-faint">
        <span>
          {actions[x]} from {amount(scale.low[0], unit(x), system)} to {amount(scale.high[0], unit(x), system)}
        </span>
        <span>
          {actions[y]} from {amount(scale.low[1], unit(y), system)} to {amount(scale.high[1], unit(y), system)}
        </span>
      </p>
    </>
  );
}

/** Whose strength the lines are. */
function Strength({ boundary }: { boundary: PatternBoundary }) {
  if (boundary.reason) return <p className="mt-1 text-faint">No strength to draw: {sentence(boundary.reason)}</p>;
  return (
    <ul className="mt-1 text-xs" aria-label="Strength">
      {boundary.lines.map((line, k) => (
        <li key={line.words} className="flex items-center gap-2">
          <span
            className="w-6 border-t-2"
            style={{ borderColor: LINES[k % LINES.length], borderStyle: k ? "dashed" : "solid" }}
          />
          <span>
            strength of {line.words} <span className="text-faint">where nothing else acts</span>
          </span>
        </li>
      ))}
    </ul>
  );
}

const MOST_PICKED = 200; // that go into a workbook

/** What was picked: one point in full, or how many and where, with a way to see them in the model. */
function Picked({
  job,
  name,
  data,
  values,
  picked,
  system,
}: {
  job: string;
  name: string;
  data: PatternPoints;
  values: Float32Array;
  picked: Set<number>;
  system: System;
}) {
  if (!picked.size) return null;
  const combinations = data.combinations.length;
  const keys = [...new Set([...picked].map((k) => data.connections[Math.floor(k / combinations)]))];
  const [first] = picked;
  return (
    <p className="mt-1" role="status">
      {picked.size === 1 ? (
        <>
          <Link className={`font-semibold ${LINK}`} to={toConnection(job, keys[0])}>
            {keys[0]}
          </Link>{" "}
          in {data.combinations[first % combinations]}:{" "}
          {data.actions.map((a, k) => `${a} ${amount(values[6 * first + k], unit(k), system)}`).join(", ")}
        </>
      ) : (
        <>
          {picked.size.toLocaleString("en")} points of {keys.length} connection{keys.length > 1 ? "s" : ""}
        </>
      )}{" "}
      <Link className={LINK} to={to(job, "model")} state={{ picked: keys }}>
        see {keys.length > 1 ? "them" : "it"} in the model
      </Link>
      {picked.size <= MOST_PICKED && (
        <Download
          className={`ml-3 ${LINK}`}
          href={`/api/v1/jobs/${encodeURIComponent(job)}/patterns/${encodeURIComponent(name)}/workbook?${new URLSearchParams(
            [...picked].map((k) => ["picked", `${data.connections[Math.floor(k / combinations)]}~${k % combinations}`]),
          )}`}
        >
          workbook with {picked.size > 1 ? "them" : "it"}
        </Download>
      )}
    </p>
  );
}

/** What the place's connections are used most by. */
function Governing({
  job,
  boundary,
  system,
  actions,
}: {
  job: string;
  boundary: PatternBoundary;
  system: System;
  actions: string[];
}) {
  return (
    <>
      <h3 className="mt-4 font-semibold">What governs here</h3>
      <table className="mt-1 w-full text-left text-xs">
        <thead className="text-faint">
          <tr>
            {[
              "mark",
              "utilisation",
              "check",
              ...actions.map((a, k) => `${a}, ${unitText(shownUnit(k, system))}`),
              "at",
              "in",
            ].map((title) => (
              <th key={title} className="py-1 pr-3 font-normal">
                {title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {boundary.governing.map((one, k) => (
            <tr key={one.connection + one.combination} className="border-t border-line/60">
              <td className="py-1 pr-2">◆ {k + 1}</td>
              <td className={`pr-3 font-semibold ${one.utilisation > 1 ? "text-fail" : ""}`}>
                {share(one.utilisation)}
              </td>
              <td className="pr-3">
                {plain(one.check)}
                {!one.peak && <span className="text-brass-dark"> · no peak of any one action</span>}
              </td>
              {one.values.map((value, n) => (
                <td key={actions[n]} className="pr-3">
                  {amount(value, unit(n), system).split(" ")[0]}
                </td>
              ))}
              <td className="pr-3">
                <Link className={LINK} to={toConnection(job, one.connection)}>
                  {one.connection}
                </Link>
              </td>
              <td>{one.combination}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

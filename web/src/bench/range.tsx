import { useState } from "react";
import { type Form, sweepTrial, type Units, useCapacity } from "../api/bench";
import type { Capacity } from "../api/types";
import { BUTTON, FIELD, Refusal } from "../parts/dialog";
import { useFile } from "../parts/download";
import { entries, SweepForm } from "../parts/sweep-form";
import { plain, WEIGHT } from "../words";
import { type Member, mapping } from "./form";

interface Of {
  form: Form; // as it is sent
  change: (parameters: Record<string, unknown>) => void;
  units: Units;
}

/** From where one stands: other values of some sizes, and what the standard holds on other beams. */
export function Range(of: Of) {
  const { form, change, units } = of;
  const shear = String(form.framing).startsWith("beam_to_");
  return (
    <>
      <SweepForm
        system={units}
        run={(values, order, stop, signal) => sweepTrial(form, units, { values, order, stop }, signal)}
        keep={(found) => (
          <button
            type="button"
            className={`${BUTTON} py-0.5`}
            onClick={() => change({ ...mapping(form, "parameters"), ...found.changes })}
          >
            Take it
          </button>
        )}
      />
      {shear && <Holds {...of} />}
    </>
  );
}

const SHEARS = { us: "20 .. 80 kip by 20 kip", si: "100 .. 400 kN by 100 kN" };
const KEPT = ["code", "method", "standard", "framing", "support"] as const;

/** How much shear the standard holds on a range of beams, its other sizes as they stand here. */
function Holds({ form, units }: Of) {
  const own = String((mapping(form, "supported") as unknown as Member).section ?? "");
  const [sections, setSections] = useState(own.replace(/X[^X]*$/i, "X*"));
  const [text, setText] = useState("rows: 2 .. 6");
  const [shears, setShears] = useState<string>(SHEARS[units]);
  const made = useCapacity();
  const [get, why] = useFile();
  const values = entries(text);
  const varied = new Set(values.flatMap(Object.keys));
  const { skew, slope, ...more } = mapping(form, "geometry");
  const left = Object.keys({ ...more, ...(form.stock === undefined ? {} : { stock: form.stock }) });
  const asked = {
    ...Object.fromEntries(KEPT.flatMap((name) => (form[name] === undefined ? [] : [[name, form[name]]]))),
    geometry: { ...(skew === undefined ? {} : { skew }), ...(slope === undefined ? {} : { slope }) },
    grade: (mapping(form, "supported") as unknown as Member).grade,
    parameters: Object.fromEntries(Object.entries(mapping(form, "parameters")).filter(([name]) => !varied.has(name))),
    sections,
    values,
    ...(shears.trim() ? { shears: shears.includes("..") ? shears : shears.split(",").map((one) => one.trim()) } : {}),
    units,
  };
  return (
    <section aria-label="Capacity table" className="mt-5 border-t border-line pt-3">
      <form
        className="space-y-1"
        onSubmit={(event) => {
          event.preventDefault();
          made.mutate(asked);
        }}
      >
        <p className="text-faint">What it holds in shear on other beams, its other sizes as they are here</p>
        {left.length > 0 && (
          <p className="text-xs text-fail">Otherwise than here, a table goes without: {left.map(plain).join(", ")}.</p>
        )}
        <div className="grid grid-cols-2 gap-2">
          <label>
            <span className="text-xs text-faint">beams</span>
            <input className={FIELD} value={sections} onChange={(event) => setSections(event.target.value)} />
          </label>
          <label>
            <span className="text-xs text-faint">the lightest for each of these shears</span>
            <input className={FIELD} value={shears} onChange={(event) => setShears(event.target.value)} />
          </label>
        </div>
        <label className="block">
          <span className="text-xs text-faint">sizes that change, a line each</span>
          <textarea
            rows={2}
            className={`${FIELD} font-mono text-xs`}
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
        </label>
        <p className="flex justify-end gap-2 text-xs">
          {made.data && (
            <button type="button" className={BUTTON} onClick={() => get("/api/v1/capacity.xlsx", asked)}>
              as a workbook
            </button>
          )}
          <button type="submit" className={BUTTON} disabled={made.isPending || !sections.trim() || !values.length}>
            {made.isPending ? "Working it out …" : "Capacity table"}
          </button>
        </p>
      </form>
      {why}
      <Refusal error={made.error} />
      {made.data && <Table of={made.data} units={units} />}
    </section>
  );
}

/** Shears against sections, the lightest that holds in each; without shears every candidate. */
function Table({ of, units }: { of: Capacity; units: Units }) {
  const cell = "border-b border-line/60 px-1.5 py-1 align-top";
  const { unit, scale } = WEIGHT[units];
  if (!of.shears.length)
    return (
      <table className="mt-2 w-full border-collapse text-left text-xs" aria-label="What is held">
        <thead>
          <tr className="text-faint">
            {["beam", "sizes", `shear, ${of.unit}`, "governs", `steel, ${unit}`].map((name) => (
              <th key={name} className={`${cell} font-normal`}>
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {of.rows.slice(0, 200).map((row) => (
            <tr key={`${row.section}${JSON.stringify(row.values)}`}>
              <td className={cell}>{row.section}</td>
              <td className={cell}>{Object.values(row.values).join(", ")}</td>
              <td className={cell}>{row.why ? "cannot be made" : row.shear}</td>
              <td className={cell}>{row.why || plain(row.check)}</td>
              <td className={cell}>{row.why ? "" : (row.steel * scale).toFixed(1)}</td>
            </tr>
          ))}
        </tbody>
        {of.rows.length > 200 && (
          <caption className="caption-bottom pt-1 text-left text-faint">
            the first 200 of {of.rows.length}; the workbook has all
          </caption>
        )}
      </table>
    );
  const varied = Object.keys(of.rows[0]?.values ?? {});
  const held = of.sections.filter((name) => of.shears.some((at) => at.sections[name]));
  return (
    <div className="mt-2 overflow-x-auto">
      <table className="border-collapse text-left text-xs" aria-label="What is held">
        <thead>
          <tr className="text-faint">
            <th className={`${cell} font-normal`}>beam</th>
            {of.shears.map((at) => (
              <th key={at.shear} className={`${cell} whitespace-nowrap font-normal`}>
                {at.shear} {of.unit}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {held.map((name) => (
            <tr key={name}>
              <th className={`${cell} whitespace-nowrap font-semibold`}>{name}</th>
              {of.shears.map((at) => {
                const row = at.sections[name];
                return (
                  <td key={at.shear} className={`${cell} whitespace-nowrap`} title={row?.summary}>
                    {row ? `${Object.values(row.values).join(", ")} (${row.shear})` : "—"}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
        <caption className="caption-bottom pt-1 text-left text-faint">
          The lightest that hold: {varied.map(plain).join(", ")}, and in brackets how much they hold, {of.unit}
          {held.length < of.sections.length &&
            `; on ${of.sections.length - held.length} of ${of.sections.length} beams none does`}
          .
        </caption>
      </table>
    </div>
  );
}

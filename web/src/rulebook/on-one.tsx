import { useState } from "react";
import { type Text, useTriedOn } from "../api/rules";
import type { TriedOn } from "../api/types";
import { FIELD, Refusal } from "../parts/dialog";
import { Met, Sources } from "./why";

/** The rulebook as it is written, tried on one connection: which rule takes it, what a formula or a table gives there. */
export function OnOne({ job, given }: { job: string; given: Text }) {
  const [name, setName] = useState("");
  const [asked, setAsked] = useState({ connection: "", formula: "", table: "" });
  const [formula, setFormula] = useState("");
  const [table, setTable] = useState("");
  const { data, error } = useTriedOn(job, { ...asked, ...given });
  return (
    <div className="text-xs">
      <form
        className="grid grid-cols-2 gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          setAsked({ connection: name.trim(), formula: formula.trim(), table: table.trim() });
        }}
      >
        <label>
          Connection
          <input className={FIELD} value={name} placeholder="B12.i" onChange={(e) => setName(e.target.value)} />
        </label>
        <label>
          Table
          <input className={FIELD} value={table} placeholder="its name" onChange={(e) => setTable(e.target.value)} />
        </label>
        <label className="col-span-2">
          Formula
          <input
            className={`${FIELD} font-mono`}
            value={formula}
            placeholder="= look_up(beams, rows) * pitch"
            onChange={(e) => setFormula(e.target.value)}
          />
        </label>
        <button type="submit" className="col-span-2 rounded border border-line bg-white py-1.5" disabled={!name.trim()}>
          Try it there
        </button>
      </form>
      <Refusal error={error} />
      {data && asked.connection && !error && (
        <div className="mt-3 space-y-3">
          <Given found={data} />
          <Met why={data.why} />
          <Sources why={data.why} />
          <details>
            <summary className="cursor-pointer text-faint">Every fact of {data.why.connection}</summary>
            <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-3">
              {Object.entries(data.why.facts).map(([fact, value]) => (
                <div key={fact} className="contents">
                  <dt className="text-faint">{fact}</dt>
                  <dd>{value}</dd>
                </div>
              ))}
            </dl>
          </details>
        </div>
      )}
    </div>
  );
}

function Given({ found }: { found: TriedOn }) {
  if (!found.value && !found.row && !found.none) return null;
  return (
    <div className="rounded bg-paper p-2">
      {found.row && (
        <p>
          Row <b>{found.row.key}</b>:{" "}
          {Object.entries(found.row.cells)
            .map(([name, value]) => `${name} ${value}`)
            .join(", ")}
        </p>
      )}
      {found.value && (
        <p>
          Value <b>{found.value}</b>
          {Object.keys(found.values ?? {}).length > 0 &&
            ` with ${Object.entries(found.values ?? {})
              .map(([name, value]) => `${name} ${value}`)
              .join(", ")}`}
          {found.rows?.map((row) => `; ${row}`)}
        </p>
      )}
      {found.none && <p className="text-unchecked">? {found.none}</p>}
    </div>
  );
}

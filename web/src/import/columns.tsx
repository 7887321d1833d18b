import { type DragEvent, useState } from "react";
import { Choice } from "../parts/choice";
import { Scroll } from "../parts/scroll";
import {
  type Change,
  type End,
  type FoundTable,
  fieldsOf,
  nodeOf,
  type OurColumn,
  type OurTable,
  type Pointing,
  type Spec,
  stands,
  type Use,
  unitsOf,
  usesOf,
} from "./map-shape";
import { Meanings } from "./meanings";

const SIX = ["Fx", "Fy", "Fz", "Mx", "My", "Mz"];

interface Field {
  column: OurColumn;
  end: End;
}

const called = (field: Field) => field.column.name + (field.end ? ` at ${field.end}` : "");

/** The first rows of a table as the file has them, each column with what it is: chosen, or a field dropped onto it. */
export function Columns({
  pointing,
  table,
  source,
  change,
}: {
  pointing: Pointing;
  table: OurTable;
  source: FoundTable;
  change: (one: Change) => void;
}) {
  const node = nodeOf(pointing, table.table);
  const uses = usesOf(node);
  const ends: End[] = node?.layout === "ends" ? ["i", "j"] : [""];
  const fields: Field[] = fieldsOf(table, node).flatMap((column) =>
    (SIX.includes(column.name) ? ends : ([""] as End[])).map((end) => ({ column, end })),
  );
  const open = fields.filter((f) => !uses.some((u) => u.ours === f.column.name && u.end === f.end));
  const put = (field: Field, name: string) => {
    const old = uses.find((u) => u.columns.length === 1 && u.columns[0] === name && Object.keys(u.spec).length < 4);
    if (old) change({ what: "column", table: table.table, name: old.ours, end: old.end, spec: null });
    change({ what: "column", table: table.table, name: field.column.name, end: field.end, spec: { column: name } });
  };
  return (
    <>
      <Open fields={open} />
      <Scroll label={`First rows of ${source.called}`} className="mt-2 overflow-x-auto rounded border border-line">
        <table className="whitespace-nowrap text-left text-xs">
          <thead className="bg-paper align-top">
            <tr>
              {source.names.map((name) => (
                <Head
                  key={name}
                  name={name}
                  unit={source.units[name] ?? ""}
                  uses={uses.filter((u) => u.columns.some((c) => stands(c, name)))}
                  fields={fields}
                  units={unitsOf(pointing)}
                  job={(pointing.stated.units ?? {}) as Record<string, string>}
                  put={(field) => put(field, name)}
                  say={(use, spec) =>
                    change({ what: "column", table: table.table, name: use.ours, end: use.end, spec })
                  }
                />
              ))}
            </tr>
          </thead>
          <tbody>
            {source.sample.map((row, k) => (
              <tr key={k} className="border-t border-line/60">
                {source.names.map((name, at) => (
                  <td key={name} className="max-w-40 truncate px-2 py-0.5">
                    {row[at] || <span className="text-line">–</span>}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Scroll>
    </>
  );
}

/** Fields that no column is yet: to be dragged onto one; those that have to be first. */
function Open({ fields }: { fields: Field[] }) {
  if (!fields.length) return null;
  return (
    <p className="mt-2 flex flex-wrap items-center gap-1 text-xs">
      <span className="text-faint">No column yet (drag one down, or choose below):</span>
      {fields.map((f) => (
        <span
          key={called(f)}
          draggable
          title={f.column.words}
          onDragStart={(event) => event.dataTransfer.setData("text/plain", called(f))}
          className={`cursor-grab rounded border px-1.5 ${f.column.required ? "border-fail/60 bg-fail/5 font-semibold" : "border-line text-faint"}`}
        >
          {called(f)}
        </span>
      ))}
    </p>
  );
}

function Head({
  name,
  unit,
  uses,
  fields,
  units,
  job,
  put,
  say,
}: {
  name: string;
  unit: string;
  uses: Use[];
  fields: Field[];
  units: Record<string, string[]>;
  job: Record<string, string>;
  put: (field: Field) => void;
  say: (use: Use, spec: Spec | null) => void;
}) {
  const [over, setOver] = useState(false);
  const use = uses[0];
  const of = (words: string) => fields.find((f) => called(f) === words);
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    const field = of(event.dataTransfer.getData("text/plain"));
    if (field) put(field);
  };
  const now = use ? called({ column: { name: use.ours } as OurColumn, end: use.end }) : "";
  const field = of(now);
  return (
    <th
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
      className={`px-2 py-1 font-normal ${over ? "bg-brass/20" : use ? "" : "text-faint"}`}
    >
      <span className="block font-semibold">
        {name}
        {unit && <span className="font-normal text-faint"> {unit}</span>}
      </span>
      <Choice
        label={`${name} is`}
        value={now}
        className={`mt-0.5 w-full ${use ? "border-rail text-ink" : ""}`}
        options={[
          { value: "", words: "not read" },
          ...(now && !field ? [{ value: now, words: now }] : []),
          ...fields.map((f) => ({ value: called(f), words: f.column.required ? called(f) : `${called(f)} (may be)` })),
        ]}
        onChange={(next) => {
          const chosen = of(next);
          if (chosen) put(chosen);
          else if (use) say(use, null);
        }}
      />
      {uses.length > 1 && (
        <span className="block text-faint">
          also{" "}
          {uses
            .slice(1)
            .map((u) => u.ours)
            .join(", ")}
        </span>
      )}
      {use && field && <How use={use} field={field} units={units} job={job} say={(spec) => say(use, spec)} />}
    </th>
  );
}

/** How a column is meant: its unit, its sense, what its words mean. */
function How({
  use,
  field,
  units,
  job,
  say,
}: {
  use: Use;
  field: Field;
  units: Record<string, string[]>;
  job: Record<string, string>;
  say: (spec: Spec) => void;
}) {
  const kind = field.column.unit;
  const own = String(use.spec.unit ?? "");
  const choices = [...(units[kind] ?? []), ...(field.column.name === "distance" ? (units.place ?? []) : [])];
  const { unit: _unit, factor: _factor, ...rest } = use.spec;
  const factor = Number(use.spec.factor ?? 1);
  return (
    <span className="mt-0.5 flex items-center gap-1">
      {kind && (
        <Choice
          label={`Unit of ${use.ours}`}
          value={own}
          className="py-0 text-xs"
          options={[
            { value: "", words: job[kind] ? `${job[kind]} (job's)` : "job's unit" },
            ...(own && !choices.includes(own) ? [own, ...choices] : choices).map((u) => ({ value: u, words: u })),
          ]}
          onChange={(unit) => say({ ...rest, ...(unit ? { unit } : {}), ...(factor === 1 ? {} : { factor }) })}
        />
      )}
      {SIX.includes(use.ours) && (
        <button
          type="button"
          aria-label={`Sense of ${use.ours}`}
          title={factor < 0 ? "taken the other way round" : "taken as it stands"}
          className={`rounded border px-1.5 ${factor < 0 ? "border-rail bg-rail text-white" : "border-line"}`}
          onClick={() => say({ ...rest, ...(own ? { unit: own } : {}), ...(factor < 0 ? {} : { factor: -1 }) })}
        >
          {factor < 0 ? "−" : "+"}
        </button>
      )}
      {use.spec.values !== undefined && <Meanings use={use} choices={field.column.choices} say={say} />}
    </span>
  );
}

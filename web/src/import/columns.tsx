import { type DragEvent, useState } from "react";
import { Choice } from "../parts/choice";
import { Scroll } from "../parts/scroll";
import { Open, Same } from "./fields";
import {
  type Change,
  called,
  type End,
  type Field,
  type FoundTable,
  fieldsOf,
  holdsOf,
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
import { Meanings, Supports } from "./meanings";

const IN_WORDS = "what is held, in words";
const SIX = ["Fx", "Fy", "Fz", "Mx", "My", "Mz"];

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
  const useOf = (f: Field) => uses.find((u) => u.ours === f.column.name && u.end === f.end);
  const open = fields.filter((f) => !useOf(f));
  const free = fields.filter((f) => !useOf(f)?.columns.length); // no column's, though perhaps one value for all rows
  const put = (field: Field, name: string, old?: Use) => {
    const instead = old && old.columns.length === 1 ? old.ours + (old.end ? ` at ${old.end}` : "") : "";
    const spec = { column: name };
    change({ what: "column", table: table.table, name: field.column.name, end: field.end, spec, instead });
  };
  const same = (field: Field, value: string | null) => {
    const spec = value === null ? null : { value };
    change({ what: "column", table: table.table, name: field.column.name, end: field.end, spec });
  };
  return (
    <>
      <Open fields={open} same={(field) => same(field, "?")} />
      <Same
        uses={uses.filter((u) => "value" in u.spec)}
        fields={fields}
        say={(use, value) => same({ column: { name: use.ours } as OurColumn, end: use.end }, value)}
      />
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
                  put={(field, old) => put(field, name, old)}
                  free={free}
                  held={table.table === "supports" ? holdsOf(pointing) : undefined}
                  hold={(value) => change({ what: "held", table: table.table, name, value })}
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

function Head({
  name,
  unit,
  uses,
  fields,
  units,
  job,
  put,
  free,
  held,
  hold,
  say,
}: {
  name: string;
  unit: string;
  uses: Use[];
  fields: Field[];
  units: Record<string, string[]>;
  job: Record<string, string>;
  put: (field: Field, instead?: Use) => void;
  free: Field[];
  held?: Record<string, string>;
  hold: (kinds: Record<string, string> | "" | null) => void;
  say: (use: Use, spec: Spec | null) => void;
}) {
  const [over, setOver] = useState(false);
  const of = (words: string) => fields.find((f) => called(f) === words);
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    const field = of(event.dataTransfer.getData("text/plain"));
    if (field) put(field, uses[0]);
  };
  const whole = Boolean(held) && uses.length === 6;
  const shown = whole ? [] : uses;
  const options = (now: string) => [
    ...(now && now !== IN_WORDS && !of(now) ? [{ value: now, words: now }] : []),
    ...fields.map((f) => ({ value: called(f), words: f.column.required ? called(f) : `${called(f)} (may be)` })),
  ];
  const inWords = held ? [{ value: IN_WORDS, words: IN_WORDS }] : [];
  return (
    <th
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
      className={`px-2 py-1 font-normal ${over ? "bg-brass/20" : uses.length ? "" : "text-faint"}`}
    >
      <span className="block font-semibold">
        {name}
        {unit && <span className="font-normal text-faint"> {unit}</span>}
      </span>
      {(shown.length ? shown : [undefined]).map((use, k) => {
        const now = whole ? IN_WORDS : use ? called({ column: { name: use.ours } as OurColumn, end: use.end }) : "";
        const field = of(now);
        return (
          <span key={now} className="block">
            <Choice
              label={k ? `${name} is also` : `${name} is`}
              value={now}
              className={`mt-0.5 w-full ${now ? "border-rail text-ink" : ""}`}
              options={[{ value: "", words: "not read" }, ...(k ? [] : inWords), ...options(now)]}
              onChange={(next) => {
                const chosen = of(next);
                if (next === IN_WORDS) hold(null);
                else if (chosen) put(chosen, use);
                else if (whole) hold("");
                else if (use) say(use, null);
              }}
            />
            {use && field && <How use={use} field={field} units={units} job={job} say={(spec) => say(use, spec)} />}
          </span>
        );
      })}
      {whole && held && <Supports uses={uses} kinds={held} say={hold} />}
      {!whole && uses.length > 0 && free.length > 0 && (
        <Choice
          label={`${name} is something more`}
          value=""
          className="mt-0.5 w-full py-0 text-xs text-faint"
          options={[{ value: "", words: "also …" }, ...free.map((f) => ({ value: called(f), words: called(f) }))]}
          onChange={(next) => {
            const chosen = of(next);
            if (chosen) put(chosen);
          }}
        />
      )}
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

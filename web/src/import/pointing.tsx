import type { Understood } from "../api/types";
import { Choice } from "../parts/choice";
import { BUTTON } from "../parts/dialog";
import { Columns } from "./columns";
import { type Change, nodeOf, type Pointing as Points, tablesOf } from "./map-shape";
import { UnderstoodTable } from "./understood";
import { WholeOfIt } from "./whole";

/** A map made by pointing: what is missing, the tables of ours one by one beside what stands in the files, and what comes of it. */
export function Pointing({
  found,
  change,
  picked,
  pick,
}: {
  found: Understood;
  change: (one: Change) => void;
  picked: string;
  pick: (table: string) => void;
}) {
  const pointing = found.pointing as Points;
  const ours = tablesOf(pointing);
  const table = ours.find((t) => t.table === picked) ?? ours[0];
  if (!table) return null;
  const node = nodeOf(pointing, table.table);
  const source = pointing.found.find((f) => f.used.includes(table.table));
  const seen = found.tables.find((t) => t.table === table.table);
  return (
    <div className="space-y-3">
      <WholeOfIt pointing={pointing} text={found.map} change={change} />
      <Missing pointing={pointing} pick={pick} />
      <nav aria-label="Tables" className="flex flex-wrap gap-1">
        {ours.map((t) => {
          const read = nodeOf(pointing, t.table);
          const left = pointing.missing.filter((m) => m.table === t.table).length;
          if (!read && !t.required && t.table !== picked && !["reactions", "node_loads"].includes(t.table)) return null;
          return (
            <button
              key={t.table}
              type="button"
              aria-pressed={t.table === table.table}
              onClick={() => pick(t.table)}
              className="rounded border border-line bg-sheet px-2 py-0.5 aria-pressed:border-rail aria-pressed:font-semibold"
            >
              <span className={read && !left ? "text-pass" : left ? "text-fail" : "text-faint"} aria-hidden="true">
                {read && !left ? "✓" : left ? "!" : "○"}
              </span>{" "}
              {t.table}
            </button>
          );
        })}
        <Choice
          label="Another table"
          value=""
          className="text-faint"
          options={[
            { value: "", words: "more …" },
            ...ours
              .filter((t) => !t.required && !nodeOf(pointing, t.table))
              .map((t) => ({ value: t.table, words: t.table })),
          ]}
          onChange={pick}
        />
      </nav>
      <section aria-label={`${table.table} in the files`} className="rounded-lg border border-line bg-sheet p-3">
        <p className="flex items-center gap-2">
          <b>{table.table}</b>
          <span className="text-faint">is read from</span>
          <Choice
            label={`${table.table} is read from`}
            value={source?.called ?? ""}
            className="max-w-80"
            options={[
              { value: "", words: node && !source ? "as the text says" : "nothing yet" },
              ...pointing.found.map((f) => ({
                value: f.called,
                words: `${f.called}${f.used.length ? ` (${f.used.join(", ")})` : ""}`,
              })),
            ]}
            onChange={(called) => called && change({ what: "table", table: table.table, source: called })}
          />
          {node && (
            <button
              type="button"
              className={`${BUTTON} py-0.5 text-xs`}
              onClick={() => change({ what: "table", table: table.table })}
            >
              Leave it out
            </button>
          )}
        </p>
        {node && source && <Columns pointing={pointing} table={table} source={source} change={change} />}
        {!node && (
          <p className="mt-2 text-faint">
            Choose the table of the files that holds the {table.table.replace("_", " ")}; its columns are proposed by
            their names.
          </p>
        )}
      </section>
      {seen && <UnderstoodTable table={seen} whole={found.whole} />}
      {found.unread.length > 0 && (
        <p className="text-faint">
          <b>Read by no table:</b> {found.unread.join(", ")}
        </p>
      )}
    </div>
  );
}

/** All that is missing at once, what weighs most first; each leads to its table. */
function Missing({ pointing, pick }: { pointing: Points; pick: (table: string) => void }) {
  if (!pointing.missing.length) return null;
  return (
    <section aria-label="Missing" className="flex flex-wrap items-center gap-1">
      <b className="text-fail">Missing:</b>
      {pointing.missing.slice(0, 14).map((m) => (
        <button
          key={`${m.table}.${m.column}`}
          type="button"
          title={m.words}
          className="rounded border border-fail/50 bg-fail/5 px-1.5 text-xs"
          onClick={() => m.table && pick(m.table)}
        >
          {[m.table, m.column].filter(Boolean).join(" ")}
        </button>
      ))}
      {pointing.missing.length > 14 && <span className="text-faint">and {pointing.missing.length - 14} more</span>}
    </section>
  );
}

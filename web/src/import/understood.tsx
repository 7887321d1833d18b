import type { SeenTable, Understood } from "../api/types";
import { Scroll } from "../parts/scroll";

/** What was understood: what is stated, what is wrong, and each table with its units, where its columns come from and its first rows. */
export function UnderstoodTables({ found }: { found: Understood }) {
  return (
    <div className="space-y-4">
      <Stated stated={found.stated} />
      {found.unread.length > 0 && (
        <p className="text-unchecked">
          <b>Not read:</b> {found.unread.join(", ")}
        </p>
      )}
      {found.tables.map((table) => (
        <UnderstoodTable key={table.table} table={table} whole={found.whole} />
      ))}
    </div>
  );
}

function Stated({ stated }: { stated: Understood["stated"] }) {
  const units = (stated.units ?? {}) as Record<string, string>;
  if (!Object.keys(units).length) return null;
  const signs =
    stated.forces === "internal" ? "forces within the member, tension +" : "forces of the node on the member";
  return (
    <p>
      <b>{String(stated.title || "untitled")}</b>
      <span className="text-faint">
        {" "}
        ·{" "}
        {["length", "section", "force", "moment", "stress"]
          .filter((k) => units[k])
          .map((k) => `${k} ${units[k]}`)
          .join(", ")}{" "}
        · up {String(stated.up ?? "?")} · {signs}
      </span>
    </p>
  );
}

/** One table as it is understood: units, where its columns come from, the first rows. */
export function UnderstoodTable({ table, whole = true }: { table: SeenTable; whole?: boolean }) {
  return (
    <section aria-label={table.table}>
      <h2>
        <b>{table.table}</b>{" "}
        <span className="text-faint">
          {whole ? "" : "the first "}
          {table.rows.toLocaleString("en")} rows of {table.source}
          {table.unread.length > 0 && `; not read: ${table.unread.join(", ")}`}
        </span>
      </h2>
      <Scroll
        label={`First rows of ${table.table}`}
        className="mt-1 overflow-x-auto rounded border border-line bg-sheet"
      >
        <table className="w-full whitespace-nowrap text-left text-xs">
          <thead className="bg-paper">
            <tr>
              {table.columns.map((column) => (
                <th key={column.name} className="px-2 py-1 align-top font-semibold">
                  {column.name}
                  {column.unit && <span className="font-normal text-faint"> {column.unit}</span>}
                  {column.source && column.source !== column.name && (
                    <span className="block max-w-36 truncate font-normal text-faint" title={column.source}>
                      {column.source}
                    </span>
                  )}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {table.sample.map((row, k) => (
              <tr key={k} className="border-t border-line/60">
                {row.map((cell, at) => (
                  <td key={table.columns[at]?.name} className="px-2 py-0.5">
                    {cell || <span className="text-line">–</span>}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Scroll>
    </section>
  );
}

import { useState } from "react";
import type { RulebookTable } from "../api/types";

/** The size tables as tables; a cell is changed in the text that it stands in. */
export function Tables({
  tables,
  allowed,
  change,
}: {
  tables: RulebookTable[];
  allowed: boolean;
  change: (table: string, row: number, column: string, value: string) => void;
}) {
  if (!tables.length)
    return (
      <p className="text-faint">
        No size tables. Under <code>tables</code> a table gives sizes by section, by its series, or by a range; its rows
        may be CSV.
      </p>
    );
  return (
    <div className="space-y-5">
      {tables.map((table) => (
        <section key={table.name} aria-label={`Table ${table.name}`}>
          <h3 className="font-semibold">
            {table.name}{" "}
            <span className="text-xs font-normal text-faint">
              by {table.keys.map((key) => `${key.name} (${key.match})`).join(", ")}
              {table.file ? `, in ${table.file}` : ""}; {table.rows.length} rows
            </span>
          </h3>
          <table className="mt-1 text-xs">
            <thead className="text-left text-faint">
              <tr className="border-b border-line">
                {[...table.keys.map((key) => key.name), ...table.columns].map((name) => (
                  <th key={name} className="py-1 pr-4">
                    {name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {table.rows.slice(0, 400).map((row, k) => (
                <tr key={row.join("|")} className="border-b border-line/60">
                  {row.map((cell, n) => {
                    const name = (table.columns[n - table.keys.length] ?? "").split(" [")[0];
                    return (
                      <td key={`${name}${n < table.keys.length ? n : ""}`} className="pr-4">
                        {n < table.keys.length || !allowed ? (
                          <span className={n < table.keys.length ? "font-semibold" : ""}>{cell}</span>
                        ) : (
                          <Cell
                            label={`${name} of ${row[0]} in ${table.name}`}
                            value={cell}
                            keep={(value) => change(table.name, k, name, value)}
                          />
                        )}
                      </td>
                    );
                  })}
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      ))}
    </div>
  );
}

function Cell({ label, value, keep }: { label: string; value: string; keep: (value: string) => void }) {
  const [text, setText] = useState<string | null>(null);
  return (
    <input
      aria-label={label}
      className="w-24 rounded border border-transparent bg-transparent px-1 py-0.5 hover:border-line focus:bg-white"
      value={text ?? value}
      onChange={(event) => setText(event.target.value)}
      onBlur={() => {
        if (text !== null && text !== value) keep(text);
        setText(null);
      }}
      onKeyDown={(event) => {
        if (event.key === "Enter") event.currentTarget.blur();
        if (event.key === "Escape") setText(null);
      }}
    />
  );
}

import { useState } from "react";
import { Link } from "react-router";
import type { Schedule, Status } from "../api/types";
import { BUTTON } from "../parts/dialog";
import { KeepDesign } from "../parts/keep-design";
import { Scroll } from "../parts/scroll";
import { StatusMark, share } from "../parts/status";
import { toConnection } from "../paths";
import { ORDER, plain, WEIGHT } from "../words";

/** A row a mark; opened, its sizes and the connections that have it. */
export function Marks({ job, found }: { job: string; found: Schedule }) {
  const [open, setOpen] = useState("");
  const { unit, scale } = WEIGHT[found.system];
  const { totals } = found;
  const weight = (kg: number) => Math.round(kg * scale).toLocaleString("en-US");
  return (
    <div className="flex h-full flex-col">
      <p className="mb-2 mt-1 text-faint">
        {found.rows.length} marks, {totals.count} connections: {totals.field_bolts.toLocaleString("en-US")} field bolts,{" "}
        {totals.shop_bolts.toLocaleString("en-US")} shop bolts, {totals.rods} anchor rods, {weight(totals.steel)} {unit}{" "}
        of plates and angles, {weight(totals.weld)} {unit} of fillets.
        {found.unsized > 0 && ` ${found.unsized} connections have no sizes and no mark.`}
      </p>
      <Scroll label="Marks" className="min-h-0 flex-1">
        <table className="w-full text-xs" aria-label="Schedule by mark">
          <thead className="sticky top-0 bg-paper text-left text-faint">
            <tr className="border-b border-line">
              {["Mark", "Number", "Sizes", "Members", "Supports", "How they stand", "Worst"].map((name) => (
                <th key={name} className={`py-1 pr-3 ${name === "Number" ? "text-right" : ""}`}>
                  {name}
                </th>
              ))}
              {["Field bolts", "Shop bolts", "Rods", `${unit} each`, unit].map((name) => (
                <th key={name} className="py-1 pl-2 text-right">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {found.rows.map((row) => [
              <tr key={row.mark} className="border-b border-line/60 align-top">
                <td className="py-1 pr-3">
                  <button
                    type="button"
                    className="align-top font-semibold hover:underline"
                    aria-expanded={open === row.mark}
                    onClick={() => setOpen(open === row.mark ? "" : row.mark)}
                  >
                    {row.mark}
                  </button>
                </td>
                <td className="pr-3 text-right">{row.count}</td>
                <td className="pr-3">{row.hand ? `${row.summary}, ${row.hand}` : row.summary}</td>
                <td className="pr-3">{some(row.members)}</td>
                <td className="pr-3">{some(row.supports)}</td>
                <td className="whitespace-nowrap pr-3">
                  {ORDER.filter((status) => row.statuses[status]).map((status) => (
                    <span key={status} className="mr-2">
                      <StatusMark status={status as Status} word={false} /> {row.statuses[status]}
                    </span>
                  ))}
                </td>
                <td className={`pr-3 ${row.utilisation > 1 ? "text-fail" : ""}`}>{share(row.utilisation)}</td>
                <td
                  className="pl-2 text-right"
                  title={
                    row.shared_with.length
                      ? `held by the same bolts across a web as ${row.shared_with.join(", ")}${row.counted_there ? `; of ${row.counted_there} they are counted there` : ""}`
                      : undefined
                  }
                >
                  {row.field_bolts || ""}
                  {row.shared_with.length > 0 && "⇄"}
                </td>
                <td className="pl-2 text-right">{row.shop_bolts || ""}</td>
                <td className="pl-2 text-right">{row.rods || ""}</td>
                <td className="pl-2 text-right">{(row.steel_each * scale).toFixed(1)}</td>
                <td className="pl-2 text-right">{weight(row.steel)}</td>
              </tr>,
              open === row.mark && (
                <tr key={`${row.mark} open`} className="border-b border-line bg-sheet">
                  <td />
                  <td colSpan={11} className="py-2 pr-3">
                    <p className="flex items-center justify-between gap-3">
                      <b>{row.title}</b>
                      <KeepDesign of={{ job, connection: row.connections[0] }} look={BUTTON} first={row.mark} />
                    </p>
                    <p>
                      {Object.entries(row.sizes)
                        .map(([name, value]) => `${plain(name)} ${value}`)
                        .join(", ")}
                    </p>
                    <p className="mt-1">
                      {row.connections.slice(0, 120).map((key) => (
                        <Link key={key} className="mr-2 hover:underline" to={toConnection(job, key)}>
                          {key}
                        </Link>
                      ))}
                      {row.connections.length > 120 && `and ${row.connections.length - 120} more`}
                    </p>
                  </td>
                </tr>
              ),
            ])}
          </tbody>
        </table>
      </Scroll>
    </div>
  );
}

const some = (names: string[]) =>
  names.slice(0, 3).join(", ") + (names.length > 3 ? ` and ${names.length - 3} more` : "");

import { Link, useParams } from "react-router";
import type { TransmittalInFull } from "../api/types";
import { toConnection } from "../paths";
import { sentence } from "../words";

const NAMED = 60; // connections; the files have all

/** What it holds, counted. */
export function Counts({ of }: { of: TransmittalInFull }) {
  const sent = of.new + of.changed + of.same;
  return (
    <>
      <p>
        <b>{sent}</b> connections in <b>{of.marks}</b> marks: {of.new} new, {of.changed} changed, {of.same} as they were
        sent; {of.withdrawn} withdrawn
      </p>
      {of.unreleased > 0 && <p className="font-semibold text-fail">✕ {of.unreleased} are not released</p>}
    </>
  );
}

/** What is not as it was when it was last sent. */
export function Changes({ of }: { of: TransmittalInFull }) {
  const { job = "" } = useParams();
  const rows = of.items.filter((row) => row.change !== "new");
  if (!rows.length) return null;
  return (
    <table className="mt-2 w-full bg-white text-xs">
      <thead>
        <tr className="border-b border-line text-left text-faint">
          {["Connection", "Mark", "Change", "In what", "Last in"].map((name) => (
            <th key={name} className="px-2 py-1 font-semibold">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.slice(0, NAMED).map((row) => (
          <tr key={row.connection} className="border-b border-line/60 align-top">
            <td className="px-2 py-1">
              {row.change === "withdrawn" ? (
                row.connection
              ) : (
                <Link className="underline underline-offset-2" to={toConnection(job, row.connection)}>
                  {row.connection}
                </Link>
              )}
            </td>
            <td className="px-2 py-1">{row.mark}</td>
            <td className="px-2 py-1">{row.change}</td>
            <td className="px-2 py-1">{sentence(row.words)}</td>
            <td className="px-2 py-1">{`T${String(row.before).padStart(3, "0")}`}</td>
          </tr>
        ))}
        {rows.length > NAMED && (
          <tr>
            <td className="px-2 py-1 text-faint" colSpan={5}>
              and {rows.length - NAMED} more, in the file
            </td>
          </tr>
        )}
      </tbody>
    </table>
  );
}

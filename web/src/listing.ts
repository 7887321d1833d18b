import type { Row } from "./api/types";
import { ORDER } from "./words";

const VALUES: Record<string, (row: Row) => string | number> = {
  status: (row) => ORDER.indexOf(row.status),
  sizes: (row) => row.summary,
  governs: (row) => row.check || row.reason,
};

const compare = new Intl.Collator("en", { numeric: true }).compare;

function found(row: Row, text: string) {
  const where = `${row.connection} ${row.joint} ${row.place} ${row.section} ${row.support_section} ${row.support} ${row.rule} ${row.check} ${row.reason}`;
  return where.toLowerCase().includes(text);
}

/** The connections that an address of the Joints station shows, in its order; those alike: worst first. `group` are those of the
 * group that it names. */
export function listed(rows: Row[], query: URLSearchParams, group?: string[]): Row[] {
  const [status, framing] = [query.get("status"), query.get("framing")];
  const text = (query.get("text") ?? "").trim().toLowerCase();
  const sort = query.get("sort") ?? "status";
  const [name, way] = sort.startsWith("-") ? [sort.slice(1), -1] : [sort, 1];
  const value = VALUES[name] ?? ((row: Row) => row[name as "connection"] ?? "");
  const order = (a: Row, b: Row) => {
    const [x, y] = [value(a), value(b)];
    return (typeof x === "number" ? x - Number(y) : compare(x, String(y))) * way || b.utilisation - a.utilisation;
  };
  const own = group && new Set(group);
  return rows
    .filter((r) => !own || own.has(r.connection))
    .filter((r) => (!status || r.status === status) && (!framing || r.framing === framing) && (!text || found(r, text)))
    .sort(order);
}

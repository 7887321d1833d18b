import type { Row } from "./api/types";
import { ORDER } from "./words";

const VALUES: Record<string, (row: Row) => string | number> = {
  status: (row) => ORDER.indexOf(row.status),
  sizes: (row) => row.summary,
  governs: (row) => row.check || row.reason,
  level: (row) => row.elevation,
  tags: (row) => row.tags.join(", "),
};

const compare = new Intl.Collator("en", { numeric: true }).compare;

/** What an address of the Joints station filters by, each as a test of a row. */
export const FILTERS: Record<string, (row: Row, wanted: string) => boolean> = {
  status: (row, wanted) => row.status === wanted,
  framing: (row, wanted) => row.framing === wanted,
  level: (row, wanted) => row.level === wanted,
  person: (row, wanted) => row.person === wanted,
  sequence: (row, wanted) => row.sequence === wanted,
  tag: (row, wanted) => row.tags.includes(wanted),
  stale: (row) => row.stale,
  over_target: (row) => row.over_target,
  remarks: (row) => row.status === "pass" && row.remarks.length > 0,
};

const FLAGS: Record<string, string> = {
  stale: "stale=1",
  over_target: "over_target=1",
  remarks: "status=pass, remarks>0",
};

function found(row: Row, text: string) {
  const where = `${row.connection} ${row.joint} ${row.place} ${row.section} ${row.support_section} ${row.support} ${row.rule} ${row.check} ${row.reason} ${row.summary} ${row.person} ${row.tags.join(" ")}`;
  return where.toLowerCase().includes(text);
}

/** The connections that an address of the Joints station shows, in its order; those alike: worst first. `group` are those of the
 * group that it names. Where it groups them by a field, they stand together by that. */
export function listed(rows: Row[], query: URLSearchParams, group?: string[]): Row[] {
  const filters = Object.entries(FILTERS).filter(([name]) => query.get(name));
  const text = (query.get("text") ?? "").trim().toLowerCase();
  const sort = query.get("sort") ?? "status";
  const [name, way] = sort.startsWith("-") ? [sort.slice(1), -1] : [sort, 1];
  const value = fieldOf(name);
  const by = fieldOf(query.get("by") ?? "");
  const order = (a: Row, b: Row) => {
    const [x, y] = [value(a), value(b)];
    return (
      (query.get("by") ? less(by(a), by(b)) : 0) ||
      (typeof x === "number" ? x - Number(y) : compare(x, String(y))) * way ||
      b.utilisation - a.utilisation
    );
  };
  const own = group && new Set(group);
  return rows
    .filter((r) => !own || own.has(r.connection))
    .filter((r) => filters.every(([name, test]) => test(r, query.get(name) ?? "")) && (!text || found(r, text)))
    .sort(order);
}

const less = (x: string | number, y: string | number) =>
  typeof x === "number" ? x - Number(y) : compare(x, String(y));
const fieldOf = (name: string) => VALUES[name] ?? ((row: Row) => (row[name as "connection"] ?? "") as string | number);

/** The same filters as the service takes them; quotes hold what a comma would part. */
export function whereOf(query: URLSearchParams): string {
  return [...Object.keys(FILTERS), "group"]
    .filter((name) => query.get(name))
    .map((name) => FLAGS[name] ?? `${name}="${query.get(name)}"`)
    .join(", ");
}

/** An address out of filters as the service takes them; nothing of a filter that the console has no place for. */
export function addressOf(where: string): [string, string][] {
  return (where.match(/(?:[^",]|"[^"]*")+/g) ?? [])
    .map((term) => /^\s*(\w+)\s*=\s*"?([^"]*)"?\s*$/.exec(term))
    .filter((m): m is RegExpExecArray => m !== null && (m[1] in FILTERS || m[1] === "group"))
    .map((m) => [m[1], m[2]]);
}

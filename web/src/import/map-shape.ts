import type { Understood } from "../api/types";

export type Pointing = NonNullable<Understood["pointing"]>;
export type FoundTable = Pointing["found"][number];
export type Spec = Record<string, unknown>;
export type End = "" | "i" | "j";

export interface OurColumn {
  name: string;
  required: boolean;
  kind: string;
  unit: string;
  choices: string[];
  words: string;
}

/** A column of ours, of one end where both are in a row. */
export interface Field {
  column: OurColumn;
  end: End;
}

export const called = (field: Field) => field.column.name + (field.end ? ` at ${field.end}` : "");

export interface OurTable {
  table: string;
  required: boolean;
  layouts: string[];
  columns: OurColumn[];
}

/** One change to a map, as the service takes it. */
export interface Change {
  what: "state" | "unit" | "table" | "key" | "column" | "held" | "try";
  table?: string;
  name?: string;
  value?: string | Record<string, string> | null;
  source?: string;
  end?: End;
  spec?: Spec | null;
  instead?: string;
}

/** A column of ours in a table of the map: which columns of the file it is read from. */
export interface Use {
  ours: string;
  end: End;
  spec: Spec;
  columns: string[];
}

type Node = Record<string, unknown>;

const asSpec = (given: unknown): Spec => (typeof given === "string" ? { column: given } : ((given ?? {}) as Spec));

function columnsOf(spec: Spec): string[] {
  if (spec.from) return [String(spec.by)];
  const flags = Object.values((spec.flags ?? {}) as Record<string, string>);
  return [...(spec.column ? [String(spec.column)] : []), ...((spec.columns ?? []) as string[]), ...flags];
}

/** Every column of ours that a table of the map says, those of both ends where it says them apart. */
export function usesOf(node: Node | undefined): Use[] {
  if (!node) return [];
  const of = (columns: unknown, end: End): Use[] =>
    Object.entries((columns ?? {}) as Node).map(([ours, given]) => {
      const spec = asSpec(given);
      return { ours, end, spec, columns: columnsOf(spec) };
    });
  const ends = (node.ends ?? {}) as Record<string, unknown>;
  return [...of(node.columns, ""), ...of(ends.i, "i"), ...of(ends.j, "j")];
}

/** Whether a column of the file is one that a name with {parts} stands for. */
export function stands(pattern: string, name: string): boolean {
  if (!pattern.includes("{")) return pattern === name;
  const parts = pattern
    .split(/\{\w+\}/)
    .map((text) => text.replace(/[.*+?^${}()|[\]\\]/g, "\\$&").replace(/ /g, "\\s+"));
  return new RegExp(`^${parts.join(".+?")}$`).test(name);
}

export const tablesOf = (pointing: Pointing) => (pointing.choices as { tables: OurTable[] }).tables;
export const unitsOf = (pointing: Pointing) => (pointing.choices as { units: Record<string, string[]> }).units;
export const holdsOf = (pointing: Pointing) => (pointing.choices as { holds: Record<string, string> }).holds;
export const nodeOf = (pointing: Pointing, table: string) => pointing.tables[table] as Node | undefined;

/** Our columns that a table may have, as its layout is. */
export function fieldsOf(table: OurTable, node: Node | undefined): OurColumn[] {
  if (node?.layout === "terms") return table.columns.filter((c) => c.name !== "case");
  if (node?.layout === "cases") return table.columns.filter((c) => !["case", "factor"].includes(c.name));
  if (node?.layout !== "stations") return table.columns;
  const distance = { name: "distance", required: true, kind: "number", unit: "length", choices: [], words: "along it" };
  return [...table.columns.filter((c) => c.name !== "end"), distance];
}

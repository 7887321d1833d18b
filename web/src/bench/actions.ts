import type { Form } from "../api/bench";

export type Row = Record<string, unknown>;

export const KINDS: Record<string, "force" | "moment"> = {
  N: "force",
  V: "force",
  Vw: "force",
  M: "moment",
  Mw: "moment",
  T: "moment",
  V_opposed: "force",
  N_opposed: "force",
  N_support: "force",
};
export const UNITS: Record<"us" | "si", Record<string, string>> = {
  us: { force: "kip", moment: "kip*ft", length: "in", angle: "deg", stress: "ksi" },
  si: { force: "kN", moment: "kN*m", length: "mm", angle: "deg", stress: "MPa" },
};

const BARE = /^[-+]?(\d*\.?\d+|\d+,(\d{1,2}|\d{4,})|\d+\/\d+|\d+-\d+\/\d+)$/;
/** With its decimal comma as a point; 1,500 may be either, and stays for the service to refuse. */
const pointed = (text: string) => (BARE.test(text) ? text.replace(",", ".") : text);

/** A number without a unit with that of its place. */
export const amount = (value: unknown, unit: string | undefined) =>
  typeof value === "string" && unit && BARE.test(value.trim()) ? `${pointed(value.trim())} ${unit}` : value;

export const COMBINED = "ASCE 7-22"; // what unfactored cases are combined by
export const CASES = ["D", "L", "Lr", "S", "R", "W", "E", "Ev"];
export const HERE = "here"; // the place of cases that nobody gave a name

/** The Bench has all actions as rows, each with its `place` where several share the connection; unfactored ones where
 *  the form says by what they are combined. */
export function spread(form: Form): Form {
  const { cases, actions, ...rest } = form;
  const told = (of: unknown) => typeof of === "object" && of !== null && !Array.isArray(of);
  if (told(cases) && Object.values(cases as Row).every((of) => told(of) && Object.values(of as Row).every(told))) {
    const places = Object.entries(cases as Record<string, Record<string, Row>>);
    const rows = places.flatMap(([place, of]) =>
      Object.entries(of).map(([name, row]) => ({ ...(place === HERE ? {} : { place }), name, ...row })),
    );
    return { ...rest, combinations: form.combinations ?? COMBINED, actions: rows };
  }
  if (!told(actions) || !Object.values(actions as Row).every(Array.isArray)) return form;
  const places = Object.entries(actions as Record<string, Row[]>);
  return { ...form, actions: places.flatMap(([place, of]) => of.map((row) => ({ place, ...row }))) };
}

export const rowsOf = (form: Form): Row[] => (Array.isArray(form.actions) ? (form.actions as Row[]) : []);
export const unfactored = (form: Form) => form.combinations !== undefined;
const isPlaced = (row: Row) => String(row.place ?? "").trim() !== "";
const placeOf = (row: Row) => String(row.place ?? "").trim() || HERE;
const nameOf = (row: Row) => String(row.name ?? "").trim();
const caseOf = ({ name: _, ...row }: Row) => row;

/** The form with its actions as a trial's file has them, each row `told` with units. */
export function acting(form: Form, told: (row: Row) => Row): Form {
  if (!Array.isArray(form.actions)) return form; // in no form that is known here
  const rows = rowsOf(form);
  const places = [...new Set(rows.map(placeOf))];
  const bare = ({ place: _, ...row }: Row) => told(row);
  const of = (place: string) => rows.filter((row) => placeOf(row) === place).map(bare);
  const each = <T>(made: (place: string) => T) => Object.fromEntries(places.map((place) => [place, made(place)]));
  if (!unfactored(form)) return { ...form, actions: rows.some(isPlaced) ? each(of) : rows.map(bare) };
  const { actions: _, ...rest } = form;
  return { ...rest, cases: each((place) => Object.fromEntries(of(place).map((row) => [nameOf(row), caseOf(row)]))) };
}

/** What two rows are alike in that may not be, in words; nothing where all is well. */
export function twice(form: Form): string {
  if (!unfactored(form)) return "";
  const seen = new Set<string>();
  for (const row of rowsOf(form)) {
    const at = JSON.stringify([placeOf(row), nameOf(row)]);
    if (seen.has(at))
      return `Case ${nameOf(row) || "without a name"}${placeOf(row) === HERE ? "" : ` at ${placeOf(row)}`} stands twice.`;
    seen.add(at);
  }
  return "";
}

/** Unfactored cases in place of combinations, or back: what was written for the one says nothing of the other. */
export function otherwise(form: Form, zero: string): Form {
  const places = [...new Set(rowsOf(form).map(placeOf))];
  const at = (place: string, name: string) => ({ ...(place === HERE ? {} : { place }), name, V: zero });
  if (unfactored(form)) {
    const { combinations: _, ...rest } = form;
    return { ...rest, actions: places.map((place) => at(place, "1")) };
  }
  return { ...form, combinations: COMBINED, actions: places.flatMap((place) => [at(place, "D"), at(place, "L")]) };
}

/** What was pasted from a spreadsheet as rows of actions: under names of its own (those that are `known`)
 *  where its first line has them, else those that are shown. */
export function pasted(text: string, shown: string[], units: Record<string, string>, known = shown): Row[] | undefined {
  const lines = text
    .replaceAll("\r", "")
    .split("\n")
    .filter((line) => line.trim());
  const cells = lines.map((line) => line.split("\t").map((cell) => cell.trim()));
  if (lines.length < 1 || cells[0].length < 2) return undefined;
  const bare = (cell: string) => cell.replace(/[,(].*$/, "").trim();
  const head = cells[0].map(bare);
  const named = head.some((name) => known.includes(name) && name !== "name");
  const names = named ? head.map((name, k) => (k === 0 && !known.includes(name) ? "name" : name)) : shown;
  const unitOf = (k: number) => (named ? /[,(]\s*([^)]+)\)?$/.exec(cells[0][k])?.[1]?.trim() : undefined);
  return cells.slice(named ? 1 : 0).map((row) => {
    const made: Row = {};
    row.forEach((cell, k) => {
      const name = names[k];
      if (!name || !known.includes(name) || cell === "") return;
      const unit = unitOf(k) ?? units[name];
      const number = name !== "name" && name !== "place" && /^[-+]?[\d.,]+$/.test(cell);
      made[name] = number ? `${pointed(cell)} ${unit ?? ""}`.trim() : cell;
    });
    return made;
  });
}

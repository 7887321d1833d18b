import type { Form } from "../api/bench";
import { acting, amount, KINDS, type Row, spread, UNITS } from "./actions";

/** The framing conditions that a trial may have, each in words, and whether its members meet at an angle. */
export const FRAMINGS: Record<string, { words: string; bent: boolean; standard: string }> = {
  beam_to_column_flange: { words: "beam to column flange", bent: true, standard: "single_plate" },
  beam_to_column_web: { words: "beam to column web", bent: true, standard: "single_plate" },
  beam_to_girder: { words: "beam to girder", bent: true, standard: "single_plate" },
  beam_to_hollow_column: { words: "beam to hollow column", bent: true, standard: "single_plate" },
  beam_splice: { words: "beam splice", bent: false, standard: "beam_flange_splice" },
  column_splice: { words: "column splice", bent: false, standard: "column_flange_splice" },
  column_base: { words: "column base", bent: false, standard: "base_plate" },
};

export interface Member {
  section: string;
  grade: string;
}

/** What the Bench begins with: a beam at a column's flange, of nobody's. */
export const FIRST: Form = {
  code: "AISC 360-22",
  method: "LRFD",
  framing: "beam_to_column_flange",
  standard: "single_plate",
  supported: { section: "W16X31", grade: "A992" },
  support: { section: "W10X49", grade: "A992" },
  geometry: {},
  parameters: {},
  actions: [{ name: "1.2D+1.6L", V: "24 kip" }],
};

export const mapping = (form: Form, name: string): Row => (form[name] as Row | undefined) ?? {};

/** The form with one entry of one of its mappings, without it where nothing is said. */
export function withEntry(form: Form, of: string, name: string, value: unknown): Form {
  const { [name]: _, ...rest } = mapping(form, of);
  return { ...form, [of]: value === "" || value === undefined || value === false ? rest : { ...rest, [name]: value } };
}

/** Another framing: with a standard that goes with it, and what it sits on; sizes stay where the standard does. */
export function withFraming(form: Form, framing: string, standards: string[]): Form {
  const kept = standards.includes(String(form.standard));
  const usual = FRAMINGS[framing].standard; // also while nobody knows yet which there are
  const standard = kept ? form.standard : standards.includes(usual) ? usual : (standards[0] ?? usual);
  const { support: _, foundation, ...rest } = form;
  const own = mapping(form, "supported") as unknown as Member;
  const column = framing === "column_base" || framing === "column_splice";
  const supported = column && !/^(W1[0-4]|W[68]X|HSS)/.test(own.section) ? { section: "W10X49", grade: "A992" } : own;
  const on =
    framing === "column_base"
      ? { foundation: foundation ?? { kind: "pedestal", fc: "4 ksi", thickness: "24 in" } }
      : { support: SUPPORTS[framing] ?? supported }; // a splice begins with both sides alike
  return { ...rest, ...on, supported, framing, standard, geometry: {}, parameters: kept ? form.parameters : {} };
}

const SUPPORTS: Record<string, Member | undefined> = {
  beam_to_column_flange: { section: "W10X49", grade: "A992" },
  beam_to_column_web: { section: "W10X49", grade: "A992" },
  beam_to_girder: { section: "W24X55", grade: "A992" },
  beam_to_hollow_column: { section: "HSS8X8X3/8", grade: "A500-C" },
};

const SHORT: [role: string, name: string, short: string][] = [
  ["supported", "skew", "skew"],
  ["supported", "slope", "slope"],
  ["supported", "offset", "top_offset"],
  ["supported", "face", "face"],
  ["support", "ends_here", "support_end"],
];

/** A trial as the Bench has it: its pieces in the short form, one member at another; its actions as rows. */
export function short(form: Form): Form {
  const pieces = form.pieces as Row[] | undefined;
  if (!pieces) return spread(form);
  const { pieces: _, ...rest } = spread(form);
  const made: Form = { ...rest };
  const geometry = { ...mapping(form, "geometry") };
  for (const piece of pieces) {
    const role = String(piece.role);
    made[role] = { section: piece.section, grade: piece.grade };
    for (const [of, name, as] of SHORT) if (of === role && name in piece) geometry[as] = piece[name];
  }
  made.geometry = geometry;
  return made;
}

const GEOMETRY: Record<string, "angle" | "length"> = { skew: "angle", slope: "angle", top_offset: "length" };
/** The form as it is sent: a number without a unit is in the one that its place has; `kinds` are those of the parameters. */
export function complete(form: Form, units: "us" | "si", kinds: Record<string, string>): Form {
  const told = (value: unknown, kind: string | undefined) => amount(value, kind ? UNITS[units][kind] : undefined);
  const each = (of: Row, kindOf: (name: string) => string | undefined) =>
    Object.fromEntries(Object.entries(of).map(([name, value]) => [name, told(value, kindOf(name))]));
  return {
    ...acting(form, (row) => each(row, (name) => KINDS[name])),
    geometry: each(mapping(form, "geometry"), (name) => GEOMETRY[name]),
    parameters: each(mapping(form, "parameters"), (name) => kinds[name]),
  };
}

/** A form as part of an address, and back; nothing where it is none. */
export const packed = (form: Form) =>
  btoa(String.fromCharCode(...new TextEncoder().encode(JSON.stringify(form))))
    .replaceAll("+", "-")
    .replaceAll("/", "_")
    .replace(/=+$/, "");

export function unpacked(text: string): Form | undefined {
  try {
    const raw = atob(text.replaceAll("-", "+").replaceAll("_", "/"));
    const form = JSON.parse(new TextDecoder().decode(Uint8Array.from(raw, (c) => c.charCodeAt(0))));
    return typeof form === "object" && form !== null && !Array.isArray(form) ? short(form as Form) : undefined;
  } catch {
    return undefined;
  }
}

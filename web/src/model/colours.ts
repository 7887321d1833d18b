import type { Comparison, Patterns } from "../api/types";
import { ORDER, plain, REMARKED, STATUSES } from "../words";
import type { Connection, Whole } from "./whole";

export const COLOURINGS = ["status", "utilisation", "asked", "framing", "pattern", "section", "change"] as const;
export type Colouring = (typeof COLOURINGS)[number];

export const PALE = "#c3c9c2";
export const ROLES: Record<string, string> = { column: "#7d8a86", beam: "#b4bdb8", brace: "#9a8f79" };
const CHANGES: Record<string, string> = {
  new: "#23765a",
  gone: "#566570",
  moved: "#7a5c99",
  resized: "#3b6ea8",
  framed: "#b0322a",
  released: "#a04668",
  reloaded: "#d9a441",
};
const MANY = [
  "#23765a",
  "#3b6ea8",
  "#b5651d",
  "#7a5c99",
  "#8f8f3c",
  "#a04668",
  "#4d8c8c",
  "#94612f",
  "#5a6b3b",
  "#b0322a",
  "#6a7a86",
  "#2f4f6f",
  "#9c7f2e",
];
const HEAT = ["#2e6f95", "#4a9c8c", "#9bb55a", "#d9a441", "#c4622d", "#9b1c1c"];
const STALE = "#d9a441";
const STEPS = [0.25, 0.5, 0.7, 0.9, 1.0];

/** What each colour of a utilisation says. */
export const SCALE = HEAT.map((colour, k) => ({
  colour,
  words: k < STEPS.length ? `to ${STEPS[k].toFixed(2)}` : "over 1.00",
}));

/** The colour of a utilisation. */
export function heat(use: number): string {
  const step = STEPS.findIndex((s) => use <= s);
  return HEAT[step < 0 ? STEPS.length : step];
}

export interface Row {
  colour: string;
  words: string;
  count: number;
}

/** What colour connections have (and members, where they are what is coloured), and what it says. */
export interface Colours {
  of: (c: Connection) => string;
  ofMember?: (member: number) => string;
  rows: Row[];
}

export function coloursBy(
  by: Colouring,
  whole: Whole,
  patterns?: Patterns["items"],
  compared?: Comparison,
  asked?: (number | null)[],
): Colours {
  const all = whole.model.connections;
  const count = (test: (c: Connection) => boolean) => all.reduce((n, c) => n + (test(c) ? 1 : 0), 0);
  if (by === "utilisation") {
    const checked = (c: Connection) => c.status === "pass" || c.status === "fail";
    const of = (c: Connection) => heat(c.utilisation);
    return {
      of: (c) => (checked(c) ? of(c) : PALE),
      rows: [
        ...SCALE.map((row) => ({ ...row, count: count((c) => checked(c) && of(c) === row.colour) })),
        { colour: PALE, words: "not checked", count: count((c) => !checked(c)) },
      ],
    };
  }
  if (by === "asked") {
    const of = (c: Connection) => {
      const share = shareOf(whole, c, asked);
      return share === null ? PALE : heat(share);
    };
    return {
      of,
      rows: [
        ...SCALE.map((row) => ({
          ...row,
          words: `${row.words} of its section`,
          count: count((c) => of(c) === row.colour),
        })),
        { colour: PALE, words: "not known", count: count((c) => of(c) === PALE) },
      ],
    };
  }
  if (by === "framing") return ranked(all, (c) => c.framing, MANY.length);
  if (by === "pattern") {
    const of = new Map<string, string>();
    for (const p of patterns ?? []) if (p.joints > 1) for (const joint of p.at) of.set(joint, p.name);
    return ranked(all, (c) => of.get(c.joint) ?? "", 11, "other patterns");
  }
  if (by === "section") {
    const found = ranked(whole.model.members, (m) => m.section, 12, "other sections");
    return { of: () => PALE, ofMember: (k) => found.of(whole.model.members[k]), rows: found.rows };
  }
  if (by === "change") {
    const at = new Map<string, string>();
    for (const kind of Object.keys(CHANGES).reverse())
      for (const change of compared?.changes ?? [])
        if (change.kind === kind) for (const joint of change.joints) at.set(joint, kind);
    return {
      of: (c) => CHANGES[at.get(c.joint) ?? ""] ?? PALE,
      rows: [
        ...Object.entries(CHANGES).map(([kind, colour]) => ({
          colour,
          words: plain(kind),
          count: count((c) => at.get(c.joint) === kind),
        })),
        { colour: PALE, words: "as it was", count: count((c) => !at.has(c.joint)) },
      ],
    };
  }
  return {
    of: (c) => (c.stale ? STALE : remarked(c) ? REMARKED.colour : STATUSES[c.status].colour),
    rows: [
      ...ORDER.map((s) => ({
        colour: STATUSES[s].colour,
        words: `${STATUSES[s].mark} ${s}`,
        count: count((c) => c.status === s && !c.stale && !remarked(c)),
      })),
      {
        colour: REMARKED.colour,
        words: `${REMARKED.mark} ${REMARKED.word}`,
        count: count((c) => !c.stale && remarked(c)),
      },
      { colour: STALE, words: "⟳ stale", count: count((c) => c.stale) },
    ].filter((row) => row.count),
  };
}

/** What share of its own section a connection's member end is asked for. */
function shareOf(whole: Whole, c: Connection, asked?: (number | null)[]) {
  const k = whole.member.get(c.member) ?? -1;
  const m = whole.model.members[k];
  if (!m) return null;
  return asked?.[2 * k + (whole.model.nodes[m.i].node === c.joint ? 0 : 1)] ?? null;
}

/** Whether a connection passes and a remark asks something of a person: a kind of its own. */
export const remarked = (c: Connection) => c.status === "pass" && c.remarks > 0;

/** The most frequent names with a colour each, the rest pale. */
function ranked<T>(all: T[], nameOf: (one: T) => string, most: number, rest = "others") {
  const counts = new Map<string, number>();
  for (const one of all) counts.set(nameOf(one), (counts.get(nameOf(one)) ?? 0) + 1);
  const names = [...counts.keys()]
    .filter(Boolean)
    .sort((a, b) => (counts.get(b) ?? 0) - (counts.get(a) ?? 0) || a.localeCompare(b, "en", { numeric: true }));
  const colour = new Map(names.slice(0, most).map((name, k) => [name, MANY[k % MANY.length]]));
  const left = all.length - names.slice(0, most).reduce((n, name) => n + (counts.get(name) ?? 0), 0);
  return {
    of: (one: T) => colour.get(nameOf(one)) ?? PALE,
    rows: [
      ...names
        .slice(0, most)
        .map((name) => ({ colour: colour.get(name) as string, words: plain(name), count: counts.get(name) as number })),
      ...(left ? [{ colour: PALE, words: rest, count: left }] : []),
    ] as Row[],
  };
}

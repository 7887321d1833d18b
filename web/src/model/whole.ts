import type { Model } from "../api/types";
import { level as heightText } from "../words";

export type Connection = Model["connections"][number];
export type Member = Model["members"][number];
export type Point = [number, number, number];

export interface Floor {
  name: string;
  z: number;
}

/** The model with what is looked up in it again and again. */
export interface Whole {
  model: Model;
  node: Map<string, number>;
  member: Map<string, number>;
  /** connections of a joint */
  at: Map<string, Connection[]>;
  /** members that meet at a node */
  meeting: number[][];
  floors: Floor[];
  /** names of grid lines, as they come */
  grids: string[];
}

export const NEAR = 300; // mm from a level or a grid line: on it

export function wholeOf(model: Model): Whole {
  const meeting: number[][] = model.nodes.map(() => []);
  model.members.forEach((m, k) => {
    meeting[m.i].push(k);
    meeting[m.j].push(k);
  });
  const at = new Map<string, Connection[]>();
  for (const c of model.connections) {
    const own = at.get(c.joint);
    if (own) own.push(c);
    else at.set(c.joint, [c]);
  }
  return {
    model,
    node: new Map(model.nodes.map((n, k) => [n.node, k])),
    member: new Map(model.members.map((m, k) => [m.member, k])),
    at,
    meeting,
    floors: floorsOf(model),
    grids: [...new Set(model.grids.map((g) => g.grid))],
  };
}

/** The levels of the model; where it names none, the heights at which three nodes or more stand. */
function floorsOf(model: Model): Floor[] {
  if (model.levels.length)
    return model.levels.map(({ level, z }) => ({ name: /[a-z]{3}/i.test(level) ? level : `level ${level}`, z }));
  const counts = new Map<number, number>();
  for (const n of model.nodes) counts.set(Math.round(n.xyz[2]), (counts.get(Math.round(n.xyz[2])) ?? 0) + 1);
  return [...counts.entries()]
    .filter(([, n]) => n >= 3)
    .map(([z]) => ({ name: `level ${heightText(z, model.system)}`, z }))
    .sort((a, b) => a.z - b.z);
}

/** Where a joint is, in words: by its place where the model has a grid or levels, else by its height. */
export function placeOf(whole: Whole, joint: string): string {
  const node = whole.model.nodes[whole.node.get(joint) ?? -1];
  if (!node) return "";
  return node.place || `at ${heightText(node.xyz[2], whole.model.system)}`;
}

/** A connection's mark: a little way into its member from its joint, so that those of one joint stand apart. */
export function markOf(whole: Whole, c: Connection, inward: number): Point | null {
  const from = whole.node.get(c.joint);
  const of = whole.member.get(c.member);
  if (from === undefined || of === undefined) return null;
  const { i, j } = whole.model.members[of];
  const a = whole.model.nodes[from].xyz;
  const b = whole.model.nodes[i === from ? j : i].xyz;
  const span = Math.hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2]);
  const part = Math.min(inward / Math.max(span, 1), 0.3);
  return [a[0] + (b[0] - a[0]) * part, a[1] + (b[1] - a[1]) * part, a[2] + (b[2] - a[2]) * part];
}

/** All of a kind, in words, with the connections that it takes. */
export interface Kind {
  words: string;
  keys: string[];
}

export function kindsOf(whole: Whole): Kind[] {
  const kinds = new Map<string, string[]>();
  const add = (words: string, key: string) => {
    const own = kinds.get(words);
    if (own) own.push(key);
    else kinds.set(words, [key]);
  };
  for (const c of whole.model.connections) {
    const node = whole.model.nodes[whole.node.get(c.joint) ?? 0];
    add(`framing: ${c.framing.replaceAll("_", " ")}`, c.connection);
    add(`status: ${c.status}`, c.connection);
    if (node.support) add(`support: ${node.support}`, c.connection);
    const floor = [...whole.floors].reverse().find((f) => node.xyz[2] >= f.z - NEAR);
    if (floor) add(`floor: ${floor.name}`, c.connection);
    add(`section: ${whole.model.members[whole.member.get(c.member) ?? 0].section}`, c.connection);
  }
  return [...kinds.entries()]
    .map(([words, keys]) => ({ words, keys }))
    .sort((a, b) => a.words.localeCompare(b.words, "en", { numeric: true }));
}

import type { Model, ModelNames, ModelShape, ModelStates } from "./types";

/** A model put together from its parts; until its names have come (`named`), nodes, members and connections are called
 *  by their places, for nobody to see. */
export interface Drawn extends Model {
  named: boolean;
}

type Words<T = string> = { words: T[]; of: number[] };

const said = <T>({ words, of }: Words<T>, k: number) => words[of[k]];

export function drawnOf(shape: ModelShape, states: ModelStates, names?: ModelNames): Drawn {
  const { title, system, grids, levels, north } = shape;
  return {
    title,
    system,
    grids,
    levels,
    north,
    named: Boolean(names),
    nodes: nodesOf(shape, names),
    members: membersOf(shape, names),
    connections: connectionsOf(shape, states, names),
    without: names?.without ?? [],
  };
}

function nodesOf({ nodes: { xyz, support } }: ModelShape, names?: ModelNames): Model["nodes"] {
  return support.of.map((_, k) => ({
    node: names?.nodes[k] ?? String(k),
    xyz: [xyz[3 * k], xyz[3 * k + 1], xyz[3 * k + 2]],
    place: names ? said(names.place, k) : "",
    level: names ? said(names.level, k) : "",
    support: said(support, k) as Model["nodes"][number]["support"],
  }));
}

function membersOf({ members: { ends, section, role, up }, sections }: ModelShape, names?: ModelNames) {
  return section.map((s, k) => ({
    ...sections[s],
    member: names?.members[k] ?? String(k),
    i: ends[2 * k],
    j: ends[2 * k + 1],
    grade: names ? said(names.grade, k) : "",
    role: said(role, k) as Model["members"][number]["role"],
    piece: names?.piece[k] ?? k,
    up: said<[number, number, number]>(up as Words<[number, number, number]>, k),
  }));
}

function connectionsOf({ members: { ends } }: ModelShape, states: ModelStates, names?: ModelNames) {
  const stale = new Set(states.stale);
  return states.member.map((m, k) => {
    const node = states.at[k] ?? ends[2 * m + states.end[k]];
    const member = names?.members[m] ?? String(m);
    return {
      connection: states.called[k] ?? `${member}.${states.end[k] ? "j" : "i"}`,
      joint: names?.nodes[node] ?? String(node),
      member,
      status: said(states.status, k) as Model["connections"][number]["status"],
      framing: said(states.framing, k),
      utilisation: states.utilisation[k],
      remarks: states.remarks[k] ?? 0,
      stale: stale.has(k),
    };
  });
}

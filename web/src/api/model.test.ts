import { expect, test } from "vitest";
import { drawnOf } from "./model";
import type { ModelNames, ModelShape, ModelStates } from "./types";

const shape = {
  title: "Two columns and a beam",
  system: "us",
  grids: [],
  levels: [],
  north: null,
  nodes: { xyz: [0, 0, 0, 0, 0, 4000, 6000, 0, 4000], support: { words: ["fixed", ""], of: [0, 1, 1] } },
  members: {
    ends: [0, 1, 1, 2],
    section: [1, 0],
    role: { words: ["column", "beam"], of: [0, 1] },
    up: { words: [[1, 0, 0]], of: [0, 0] },
  },
  sections: [
    { section: "W16X31", shape: "W", depth: 404, width: 140 },
    { section: "W14X90", shape: "W", depth: 356, width: 368 },
  ],
} as ModelShape;
const states = {
  member: [0, 1, 1],
  end: [0, 0, 1],
  called: { 2: "B1.end" },
  at: { 2: 1 },
  framing: { words: ["column_base", "beam_to_column_flange"], of: [0, 1, 1] },
  status: { words: ["pass", "fail"], of: [0, 0, 1] },
  utilisation: [0.2, 0.5, 1.2],
  remarks: { 1: 2 },
  stale: [2],
} as unknown as ModelStates;
const names = {
  nodes: ["N1", "N2", "N3"],
  place: { words: ["A/1, base", ""], of: [0, 1, 1] },
  level: { words: ["base", "roof"], of: [0, 1, 1] },
  members: ["C1", "B1"],
  grade: { words: ["A992"], of: [0, 0] },
  piece: [0, 1],
  without: [],
} as ModelNames;

test("a model is what its parts say", () => {
  const model = drawnOf(shape, states, names);
  expect(model.named).toBe(true);
  expect(model.nodes[2]).toEqual({ node: "N3", xyz: [6000, 0, 4000], place: "", level: "roof", support: "" });
  expect(model.members[0]).toMatchObject({ member: "C1", i: 0, j: 1, section: "W14X90", role: "column", depth: 356 });
  expect(model.connections[1]).toEqual({
    connection: "B1.i",
    joint: "N2",
    member: "B1",
    status: "pass",
    framing: "beam_to_column_flange",
    utilisation: 0.5,
    remarks: 2,
    stale: false,
  });
  expect(model.connections[2]).toMatchObject({ connection: "B1.end", joint: "N2", status: "fail", stale: true });
});

test("before its names come, each is another one", () => {
  const model = drawnOf(shape, states);
  expect(model.named).toBe(false);
  expect(new Set(model.nodes.map((n) => n.node)).size).toBe(3);
  expect(model.connections[1].joint).toBe(model.nodes[1].node);
  expect(model.connections[1].member).toBe(model.members[1].member);
});

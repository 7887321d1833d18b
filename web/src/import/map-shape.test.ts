import { describe, expect, it } from "vitest";
import { fieldsOf, type OurTable, stands, usesOf } from "./map-shape";

describe("which columns a map reads", () => {
  it("of one spelling, several, flags and look-ups, at either end", () => {
    const uses = usesOf({
      columns: {
        member: "Frame",
        result: { columns: ["Case", "Sense"], join: " " },
        section: { from: "props", by: "Prop" },
      },
      ends: { i: { release: { flags: { My: "M2I", Mz: "M3I" } } } },
    });
    expect(uses.map((u) => [u.ours, u.end, u.columns])).toEqual([
      ["member", "", ["Frame"]],
      ["result", "", ["Case", "Sense"]],
      ["section", "", ["Prop"]],
      ["release", "i", ["M2I", "M3I"]],
    ]);
    expect(usesOf(undefined)).toEqual([]);
  });
});

describe("names with parts", () => {
  it.each([
    ["Fx {end}", "Fx i", true],
    ["Fx {end}", "Fx", false],
    ["Fx (kN)", "Fx (kN)", true],
    ["F({end}) x", "F(j)  x", true], // signs are no pattern, and spaces are spaces
    ["F.x", "Fax", false],
  ])("%s stands for %s: %s", (pattern, name, holds) => expect(stands(pattern, name)).toBe(holds));
});

describe("the columns that a layout has", () => {
  const column = (name: string) => ({ name, required: true, kind: "text", unit: "", choices: [], words: "" });
  const table: OurTable = {
    table: "end_forces",
    required: true,
    layouts: [],
    columns: ["member", "end", "case", "factor"].map(column),
  };
  const names = (layout?: string) => fieldsOf(table, layout ? { layout } : undefined).map((c) => c.name);
  it("leaves out what the layout gives by itself", () => {
    expect(names()).toEqual(["member", "end", "case", "factor"]);
    expect(names("terms")).toEqual(["member", "end", "factor"]);
    expect(names("cases")).toEqual(["member", "end"]);
    expect(names("stations")).toEqual(["member", "case", "factor", "distance"]);
  });
});

import { expect, test } from "vitest";
import { acting, otherwise, pasted, rowsOf, spread, twice } from "./actions";
import { complete, FIRST, short } from "./form";

const same = (row: object) => row as Record<string, unknown>;
const PLACES = {
  ...FIRST,
  actions: { north: [{ name: "1", V: "12 kip" }], "2nd floor": [{ name: "1", V: "9 kip", N: "2 kip" }] },
};
const CASES = {
  ...FIRST,
  actions: undefined,
  cases: { north: { D: { V: "12 kip" }, L: { V: "21 kip" } }, south: { D: { V: "8 kip" } } },
  combinations: "ASCE 7-22",
};

test("places and cases of a file are rows on the Bench, and the same file again", () => {
  for (const file of [PLACES, CASES]) {
    const { actions, ...rest } = short(file);
    expect(Array.isArray(actions)).toBe(true);
    expect(JSON.parse(JSON.stringify(complete({ ...rest, actions }, "us", {})))).toEqual(
      JSON.parse(JSON.stringify(file)),
    );
  }
  expect(rowsOf(spread(CASES))).toEqual([
    { place: "north", name: "D", V: "12 kip" },
    { place: "north", name: "L", V: "21 kip" },
    { place: "south", name: "D", V: "8 kip" },
  ]);
});

test("a number without a unit has its place's in every row of every place", () => {
  const typed = {
    ...FIRST,
    actions: [
      { place: "A", name: "1", V: "12" },
      { name: "1", V: "9,5" },
    ],
  };
  expect(complete(typed, "us", {}).actions).toEqual({
    A: [{ name: "1", V: "12 kip" }],
    here: [{ name: "1", V: "9.5 kip" }],
  });
  const cases = { ...FIRST, combinations: "ASCE 7-22", actions: [{ name: "D", V: "12", M: "3" }] };
  const sent = complete(cases, "si", {});
  expect(sent.cases).toEqual({ here: { D: { V: "12 kN", M: "3 kN*m" } } });
  expect(sent).not.toHaveProperty("actions");
});

test("what is in no form that is known stays as it is, for the service to refuse", () => {
  for (const odd of [
    { cases: { A: ["x"] }, combinations: "ASCE 7-22" },
    { actions: { A: "7 kip" } },
    { actions: "7 kip" },
    { actions: null },
  ]) {
    const { actions: _, ...rest } = FIRST;
    const form = spread({ ...rest, ...odd });
    expect(acting(form, same)).toEqual({ ...rest, ...odd });
  }
});

test("no row is lost for what a place is called", () => {
  const rows = [
    { place: "here", name: "D", V: "1 kip" },
    { name: "L ", V: "2 kip" },
    { place: " A", name: "D", V: "3 kip" },
  ];
  expect(acting({ combinations: "ASCE 7-22", actions: rows }, same).cases).toEqual({
    here: { D: { V: "1 kip" }, L: { V: "2 kip" } },
    A: { D: { V: "3 kip" } },
  });
  expect(acting({ actions: rows }, same).actions).toEqual({
    here: [
      { name: "D", V: "1 kip" },
      { name: "L ", V: "2 kip" },
    ],
    A: [{ name: "D", V: "3 kip" }],
  });
  const both = [{ place: "here", name: "D" }, { name: "D" }];
  expect(twice({ combinations: "ASCE 7-22", actions: both })).toBe("Case D stands twice.");
});

test("one case twice at a place is told, and sent nowhere", () => {
  const rows = [
    { name: "D", V: "1" },
    { name: "D ", V: "2" },
  ];
  expect(twice({ ...FIRST, combinations: "ASCE 7-22", actions: rows })).toContain("stands twice");
  expect(twice({ ...FIRST, actions: rows })).toBe("");
  expect(
    twice({
      ...FIRST,
      combinations: "ASCE 7-22",
      actions: [
        { place: "A", name: "D" },
        { place: "B", name: "D" },
      ],
    }),
  ).toBe("");
});

test("unfactored in place of factored, and back, at every place", () => {
  const cases = otherwise(spread(PLACES), "0 kip");
  expect(rowsOf(cases).map((row) => [row.place, row.name])).toEqual([
    ["north", "D"],
    ["north", "L"],
    ["2nd floor", "D"],
    ["2nd floor", "L"],
  ]);
  expect(rowsOf(otherwise(cases, "0 kip"))).toHaveLength(2);
  expect(otherwise(cases, "0 kip")).not.toHaveProperty("combinations");
});

test("rows from a spreadsheet without names over them go under the columns that are shown", () => {
  const units = { V: "kip", N: "kip", M: "kip*ft" };
  expect(pasted("A\tD\t12\nA\tL\t21\n", ["place", "name", "V"], units, ["place", "name", "N", "V", "M"])).toEqual([
    { place: "A", name: "D", V: "12 kip" },
    { place: "A", name: "L", V: "21 kip" },
  ]);
  expect(pasted("place\tname\tM\nA\tD\t3\n", ["name", "V"], units, ["place", "name", "N", "V", "M"])).toEqual([
    { place: "A", name: "D", M: "3 kip*ft" },
  ]);
});

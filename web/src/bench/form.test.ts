import { expect, test } from "vitest";
import { pasted } from "./actions";
import { complete, FIRST, packed, short, unpacked, withEntry, withFraming } from "./form";

const COLUMNS = ["name", "N", "V", "M"];
const UNITS = { N: "kip", V: "kip", M: "kip*ft" };

test("an address holds a form, whatever its letters", () => {
  const form = { ...FIRST, title: "Träger – 8°" };
  expect(unpacked(packed(form))).toEqual(form);
  expect(packed(form)).toMatch(/^[\w-]+$/);
  expect(unpacked("no form")).toBeUndefined();
  expect(unpacked(btoa("[1]"))).toBeUndefined();
});

test("a number without a unit is in the one of its place", () => {
  const typed = {
    ...FIRST,
    geometry: { skew: "8", top_offset: "1-1/2", opposed: true },
    parameters: { pitch: "3", rows: "4", bolt: "3/4 A325-N" },
    actions: [{ name: "7", V: "37", M: "-4,5", N: "2 kN" }],
  };
  const sent = complete(typed, "us", { pitch: "length", rows: "count", bolt: "bolt" });
  expect(sent.geometry).toEqual({ skew: "8 deg", top_offset: "1-1/2 in", opposed: true });
  expect(sent.parameters).toEqual({ pitch: "3 in", rows: "4", bolt: "3/4 A325-N" });
  expect(sent.actions).toEqual([{ name: "7", V: "37 kip", M: "-4.5 kip*ft", N: "2 kN" }]);
  expect(complete(typed, "si", {}).actions).toEqual([{ name: "7", V: "37 kN", M: "-4.5 kN*m", N: "2 kN" }]);
});

test("a number that may be two is left for the service to refuse", () => {
  const typed = { ...FIRST, actions: [{ name: "7", V: "1,500" }] };
  expect(complete(typed, "us", {}).actions).toEqual([{ name: "7", V: "1,500" }]);
  expect(pasted("a\t0\t1,500\n", COLUMNS, UNITS)).toEqual([{ name: "a", N: "0 kip", V: "1,500 kip" }]);
});

test("rows from a spreadsheet, with and without names over them", () => {
  expect(pasted("1.4D\t0\t12\t\n1.2D+1.6L\t2\t31,5\t4\n", COLUMNS, UNITS)).toEqual([
    { name: "1.4D", N: "0 kip", V: "12 kip" },
    { name: "1.2D+1.6L", N: "2 kip", V: "31.5 kip", M: "4 kip*ft" },
  ]);
  expect(pasted("Combination\tV [x]\tM, kN*m\r\nA\t5 kN\t-3\r\n", ["name", "V", "M"], UNITS)).toEqual([
    { name: "A", M: "-3 kN*m" },
  ]);
  expect(pasted("LC\tV (kN)\tN\nA\t5\t1\n", COLUMNS, UNITS)).toEqual([{ name: "A", V: "5 kN", N: "1 kip" }]);
  expect(pasted("just a text", COLUMNS, UNITS)).toBeUndefined();
});

test("another framing brings what it sits on, and a standard that goes with it", () => {
  const girder = withFraming(FIRST, "beam_to_girder", ["single_plate", "double_angle"]);
  expect(girder).toMatchObject({ standard: "single_plate", support: { section: "W24X55" } });
  const base = withFraming(withEntry(FIRST, "parameters", "rows", "4"), "column_base", ["base_plate"]);
  expect(base).toMatchObject({
    standard: "base_plate",
    foundation: { kind: "pedestal" },
    parameters: {},
    geometry: {},
  });
  expect(base).not.toHaveProperty("support");
  expect(withFraming(girder, "beam_splice", ["beam_web_splice"])).toMatchObject({ support: { section: "W16X31" } });
  expect(withFraming(base, "beam_to_girder", ["single_plate"])).not.toHaveProperty("foundation");
});

test("a framing chosen before the standards are there has one all the same", () => {
  expect(withFraming(FIRST, "column_base", [])).toMatchObject({ standard: "base_plate" });
});

test("pieces by role are told in the short form", () => {
  const { supported, support, geometry, ...rest } = FIRST;
  const pieces = [
    { role: "supported", section: "W16X40", grade: "A992", skew: "8 deg", offset: "1 in" },
    { role: "support", section: "W24X68", grade: "A992", ends_here: true },
  ];
  expect(short({ ...rest, pieces, geometry: { opposed: true } })).toMatchObject({
    supported: { section: "W16X40", grade: "A992" },
    support: { section: "W24X68", grade: "A992" },
    geometry: { skew: "8 deg", top_offset: "1 in", support_end: true, opposed: true },
  });
});

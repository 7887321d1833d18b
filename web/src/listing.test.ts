import { describe, expect, it } from "vitest";
import type { Row } from "./api/types";
import { addressOf, listed, whereOf } from "./listing";

const row = (connection: string, more: Partial<Row> = {}): Row =>
  ({
    connection,
    joint: "n1",
    place: "B/2, level 2",
    section: "W16X40",
    support: "G1",
    support_section: "W24X68",
    rule: "Beams",
    check: "",
    reason: "",
    summary: "",
    person: "",
    tags: [],
    remarks: [],
    status: "pass",
    utilisation: 0.5,
    elevation: 0,
    level: "level 2",
    stale: false,
    over_target: false,
    ...more,
  }) as unknown as Row;

const names = (rows: Row[]) => rows.map((r) => r.connection);
const query = (text: string) => new URLSearchParams(text);

describe("the table's order", () => {
  const rows = [
    row("B2.i", { utilisation: 0.4 }),
    row("B10.i", { status: "fail", utilisation: 1.2 }),
    row("B1.i", { utilisation: 0.9 }),
  ];

  it("begins with what fails, and the worst of those alike", () => {
    expect(names(listed(rows, query("")))).toEqual(["B10.i", "B1.i", "B2.i"]);
  });
  it("counts in names as people do", () => {
    expect(names(listed(rows, query("sort=connection")))).toEqual(["B1.i", "B2.i", "B10.i"]);
    expect(names(listed(rows, query("sort=-connection")))).toEqual(["B10.i", "B2.i", "B1.i"]);
  });
  it("leaves the rows that it was given as they are", () => {
    listed(rows, query("sort=connection"));
    expect(names(rows)).toEqual(["B2.i", "B10.i", "B1.i"]);
  });
});

describe("filters", () => {
  const rows = [
    row("B1.i", { tags: ["stairs", "east"], stale: true }),
    row("B2.i", { remarks: ["less is stated"] }),
    row("B3.i", { status: "fail", remarks: ["x"] }),
  ];
  it("all count together, and a text looks everywhere", () => {
    expect(names(listed(rows, query("tag=stairs")))).toEqual(["B1.i"]);
    expect(names(listed(rows, query("stale=1")))).toEqual(["B1.i"]);
    expect(names(listed(rows, query("remarks=1")))).toEqual(["B2.i"]); // of what passes
    expect(names(listed(rows, query("status=pass&tag=none")))).toEqual([]);
    expect(names(listed(rows, query("text=b3.I")))).toEqual(["B3.i"]);
  });
  it("keeps to a group", () => expect(names(listed(rows, query(""), ["B2.i", "B9.i"]))).toEqual(["B2.i"]));
});

describe("addresses and what the service takes", () => {
  it.each([
    ["status=fail", 'status="fail"'],
    ["level=level 2, roof&stale=1", 'level="level 2, roof", stale=1'],
    ["remarks=1", "status=pass, remarks>0"],
    ["group=east wing", 'group="east wing"'],
    ["sort=-utilisation", ""],
  ])("%s is %s", (address, where) => expect(whereOf(query(address))).toBe(where));

  it("come back from it, commas in quotes and all", () => {
    const all: Record<string, string>[] = [{ status: "fail", level: "level 2, roof" }, { group: "a=b" }, { tag: "x" }];
    for (const address of all) {
      const where = whereOf(new URLSearchParams(address));
      expect(Object.fromEntries(addressOf(where))).toEqual(address);
    }
  });
  it("leaves out what the console has no place for", () => {
    expect(addressOf("section~W16, status=fail, utilisation>0.9")).toEqual([["status", "fail"]]);
  });
});

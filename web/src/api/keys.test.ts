import { expect, test } from "vitest";
import { key, madeOld } from "./keys";

test("a key begins with its name and its job, so that one word makes all of them old", () => {
  expect(key("pattern", "library", "P1", "boundary").slice(0, 2)).toEqual(key("pattern", "library"));
});

test("what is big waits, what is small does not, nothing is both", () => {
  expect(madeOld("seldom")).toEqual(["connections", "model"]);
  expect(madeOld("moves")).toEqual(expect.arrayContaining(["job", "connection", "points"]));
  expect(madeOld("moves").filter((name) => madeOld("seldom").includes(name))).toEqual([]);
});

import { expect, test } from "vitest";
import { shareWords } from "./share";

test("what is not done is never rounded to all", () => {
  expect(shareWords(999, 1000)).toBe("999 of 1000 connections done, 99 %");
  expect(shareWords(0, 0)).toBe("no connections yet");
});

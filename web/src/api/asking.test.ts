import { afterEach, expect, test, vi } from "vitest";
import { about, answered } from "./asking";

const asked = (done = 0) =>
  Response.json(
    { id: "q1", state: "working", done, total: 10, left: 2, ahead: 0 },
    { status: 202, headers: { Location: "/api/v1/questions/q1" } },
  );

afterEach(() => vi.unstubAllGlobals());

test("an address is called by what it answers", () => {
  expect(about("http://x/api/v1/jobs/a/schedule/fewer")).toBe("fewer marks");
  expect(about("/api/v1/jobs/a/connections/B1.i/sweep")).toBe("the sweep");
  expect(about("/api/v1/jobs/a/elsewhere")).toBe("the answer");
});

test("an answer that is there is itself", async () => {
  const there = Response.json({});
  expect(await answered(there, "/")).toBe(there);
  const run = Response.json({ id: 1 }, { status: 202 });
  expect(await answered(run, "/")).toBe(run);
});

test("a question is asked after until it is answered", async () => {
  const answers = [asked(3), asked(7), Response.json({ rows: [] })];
  const fetched = vi.fn(async () => answers.shift() as Response);
  vi.stubGlobal("fetch", fetched);
  vi.stubGlobal("window", globalThis);
  const found = await answered(asked(), "/api/v1/jobs/a/schedule");
  expect(found.status).toBe(200);
  expect(fetched).toHaveBeenCalledTimes(3);
});

test("who leaves tells the service", async () => {
  const said: string[] = [];
  vi.stubGlobal("fetch", async (_: string, init?: RequestInit) => {
    said.push(init?.method ?? "GET");
    return init?.method === "DELETE" ? new Response(null, { status: 204 }) : asked(1);
  });
  vi.stubGlobal("window", globalThis);
  const leaves = new AbortController();
  setTimeout(() => leaves.abort(), 120);
  await expect(answered(asked(), "/api/v1/jobs/a/schedule", leaves.signal)).rejects.toThrow("not wanted");
  expect(said.at(-1)).toBe("DELETE");
});

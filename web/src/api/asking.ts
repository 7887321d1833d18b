import { useSyncExternalStore } from "react";

/** A question that the service works at: how far it is, and what it is about. */
export interface Asked {
  id: string;
  state: string;
  done: number;
  total: number;
  left: number | null;
  ahead: number;
  about: string;
  since: number;
}

const AT = "/api/v1/questions/";
const [FIRST, LAST, MORE] = [50, 1000, 1.5]; // milliseconds between two times that it is asked after

/** What a person calls the answer to an address. */
const ABOUT: [RegExp, string][] = [
  [/\/sweep$/, "the sweep"],
  [/\/schedule\/fewer$/, "fewer marks"],
  [/\/schedule/, "the schedule"],
  [/\/as-one$/, "one set of sizes for all"],
  [/\/rulebook\/try$/, "what the rulebook would make otherwise"],
  [/\/rulebook/, "the rulebook"],
  [/\/survey$/, "the survey"],
  [/\/compare$/, "what the revision changed"],
  [/\/patterns/, "the patterns"],
  [/\/reserve$/, "what is in reserve"],
  [/\/changes$/, "the decision"],
  [/\/imports\//, "the map"],
  [/\/output/, "the rows"],
  [/\/table\./, "the table"],
];

/** What is asked for at an address, in words. */
export const about = (url: string) => {
  const path = new URL(url, "http://here").pathname;
  return ABOUT.find(([of]) => of.test(path))?.[1] ?? "the answer";
};

let open: readonly Asked[] = [];
const listeners = new Set<() => void>();
const leaving = new Map<string, AbortController>();

function set(next: readonly Asked[]) {
  open = next;
  for (const tell of listeners) tell();
}

const listen = (tell: () => void) => {
  listeners.add(tell);
  return () => listeners.delete(tell);
};

/** What is being worked out for this console, the oldest first. */
export const useAsked = () => useSyncExternalStore(listen, () => open);

/** Who asked does not want to know any more. */
export const leave = (id: string) => leaving.get(id)?.abort();

const pause = (ms: number, signal: AbortSignal) =>
  new Promise<void>((done) => {
    const timer = window.setTimeout(done, ms);
    signal.addEventListener("abort", () => {
      window.clearTimeout(timer);
      done();
    });
  });

/** The answer to what was asked with `response`: itself, or, where it takes longer than a moment, what is there in the end. Ends where
 *  `asker` does not want it any more, or the person leaves it. */
export async function answered(response: Response, url: string, asker?: AbortSignal): Promise<Response> {
  const at = response.headers.get("Location") ?? "";
  if (response.status !== 202 || !at.startsWith(AT)) return response;
  const mine = new AbortController();
  const signal = asker ? AbortSignal.any([asker, mine.signal]) : mine.signal;
  const id = at.slice(AT.length);
  const [since, words] = [Date.now(), about(url)];
  leaving.set(id, mine);
  try {
    let wait = FIRST;
    let latest = response;
    while (latest.status === 202 && latest.headers.has("Location")) {
      const said = await latest.json();
      set([...open.filter((one) => one.id !== id), { ...said, about: words, since }]);
      await pause(wait, signal);
      if (signal.aborted) break;
      wait = Math.min(wait * MORE, LAST);
      latest = await fetch(at, { headers: { "X-Handrail": "1" }, signal });
    }
    if (!signal.aborted) return latest;
  } catch (error) {
    if (!signal.aborted) throw error;
  } finally {
    leaving.delete(id);
    set(open.filter((one) => one.id !== id));
  }
  fetch(at, { method: "DELETE", headers: { "X-Handrail": "1" } }).catch(() => {});
  if (asker?.aborted) throw new DOMException("not wanted any more", "AbortError");
  return Response.json({ detail: `You left ${words} before it was there.` }, { status: 499 });
}

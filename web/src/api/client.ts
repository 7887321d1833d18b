import createClient from "openapi-fetch";
import { answered } from "./asking";
import type { paths } from "./schema";

/** The service's API with its generated types; the cookie signs it, the header says it is the console. */
export const api = createClient<paths>({ baseUrl: "/", headers: { "X-Handrail": "1" } });

api.use({ onResponse: ({ response, request }) => answered(response, request.url, request.signal) });

/** What is wrong with a file that was sent, at its place. */
export interface Problem {
  file: string;
  row: number | null;
  column: string;
  message: string;
}

export class Refused extends Error {
  constructor(
    readonly status: number,
    detail: string,
    readonly problems: Problem[] = [],
  ) {
    super(detail);
  }
}

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** The data of an answer as `T`, or the problem's words thrown. */
export async function need<T>(answer: Promise<Answer<unknown>>): Promise<T> {
  const { data, error, response } = await answer.catch(() => {
    throw new Refused(0, "The service does not answer. Is it running?");
  });
  if (!response.ok) {
    const said = error as { detail?: string; problems?: Problem[] } | undefined;
    throw new Refused(response.status, said?.detail ?? `The service answered ${response.status}.`, said?.problems);
  }
  return data as T;
}

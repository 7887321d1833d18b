import createClient from "openapi-fetch";
import { answered } from "./asking";
import type { paths } from "./schema";

/** The service's API with its generated types; the cookie signs it, the header says it is the console. */
export const api = createClient<paths>({ baseUrl: "/", headers: { "X-Handrail": "1" } });

api.use({ onResponse: ({ response, request }) => answered(response, request.url, request.signal) });

export class Refused extends Error {
  constructor(
    readonly status: number,
    detail: string,
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
    const detail = (error as { detail?: string } | undefined)?.detail;
    throw new Refused(response.status, detail ?? `The service answered ${response.status}.`);
  }
  return data as T;
}

import { useLocation } from "react-router";

/** An address of the console: each part made safe, since a member may be called `W1/2 #3 50%`. */
export const to = (...parts: string[]) => `/${parts.map(encodeURIComponent).join("/")}`;

/** The connection that the address names; `/` and `%` in it come back as they were. */
export function useNamedConnection(): string {
  const part = useLocation().pathname.split("/")[3] ?? "";
  try {
    return decodeURIComponent(part);
  } catch {
    return part;
  }
}

/** The address of a connection, with the list or joint it was opened from, so that one finds back and on. */
export const toConnection = (job: string, connection: string, from?: string) =>
  to(job, "connections", connection) + (from ? `?from=${encodeURIComponent(from)}` : "");

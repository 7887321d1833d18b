import { type ReactNode, useState } from "react";
import { answered } from "../api/asking";
import { saved } from "../saved";

/** Fetches a file of the service's and hands it over; one that takes longer than a moment is waited for. Why not, where it cannot be
 *  had. */
async function handOver(href: string, body?: object): Promise<string> {
  const asked: RequestInit = body
    ? { method: "POST", headers: { "X-Handrail": "1", "Content-Type": "application/json" }, body: JSON.stringify(body) }
    : { headers: { "X-Handrail": "1" } };
  const response = await answered(await fetch(href, asked), href);
  if (!response.ok) return ((await response.json()) as { detail?: string }).detail ?? "It could not be made.";
  const named = /filename="([^"]+)"/.exec(response.headers.get("Content-Disposition") ?? "")?.[1];
  saved(await response.blob(), named ?? "file");
  return "";
}

/** How a file is asked for, and why it could not be had the last time. */
export function useFile(): [(href: string, body?: object) => void, ReactNode] {
  const [why, say] = useState("");
  const get = (href: string, body?: object) => {
    say("");
    handOver(href, body).then(say, () => say("The service does not answer."));
  };
  const told = why && (
    <span role="alert" className="ml-2 text-fail">
      {why}
    </span>
  );
  return [get, told];
}

/** A link to a file. */
export function Download({ href, className, children }: { href: string; className: string; children: ReactNode }) {
  const [get, why] = useFile();
  return (
    <>
      <a
        className={className}
        href={href}
        onClick={(event) => {
          event.preventDefault();
          get(href);
        }}
      >
        {children}
      </a>
      {why}
    </>
  );
}

import { Link, useSearchParams } from "react-router";
import type { Connection } from "../api/types";
import { Scroll } from "../parts/scroll";
import { StatusMark } from "../parts/status";
import { to, toConnection } from "../paths";
import { plain, sentence } from "../words";
import { Alternatives } from "./alternatives";
import { Forces } from "./forces";
import { History } from "./history";

/** A connection without a standard: why, what meets at its joint, and the forces that somebody will have to carry. */
export function Undrawn({ job, data, role }: { job: string; data: Connection; role: string }) {
  const from = useSearchParams()[0].get("from") ?? "";
  return (
    <Scroll label="Joint and forces" className="min-h-0 flex-1 p-6">
      <p className="text-base font-semibold">No connection is drawn here</p>
      <p className="mt-1 text-faint">{sentence(data.reason)}</p>
      <div className="mt-5 grid max-w-6xl grid-cols-[minmax(0,5fr)_minmax(0,7fr)] gap-8">
        <section aria-label="Joint">
          <h2 className="mb-1 font-semibold">
            Joint {data.joint}{" "}
            <Link
              to={`${to(job, "model")}?joint=${encodeURIComponent(data.joint)}`}
              className="pl-1 text-xs font-normal text-brass-dark underline underline-offset-2"
            >
              see it in the model
            </Link>
          </h2>
          <table className="w-full">
            <thead>
              <tr className="border-b border-line text-left text-xs text-faint">
                {["End", "Section", "Framing", "Status"].map((name) => (
                  <th key={name} className="py-1 font-semibold">
                    {name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {[data, ...data.neighbours].map((c) => (
                <tr key={c.connection} className="border-b border-line/60">
                  <td className="py-0.5 pr-3">
                    {c === data ? (
                      <b>{c.connection}</b>
                    ) : (
                      <Link to={toConnection(job, c.connection, from)} className="underline underline-offset-2">
                        {c.connection}
                      </Link>
                    )}
                  </td>
                  <td className="pr-3">{c.section}</td>
                  <td className="pr-3">{plain(c.framing)}</td>
                  <td>
                    <StatusMark status={c.status} />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
        <section aria-label="Forces">
          <h2 className="mb-1 font-semibold">
            End forces of {data.member}, {data.section}
          </h2>
          <Forces data={data} whole />
        </section>
      </div>
      <section aria-label="Alternatives" className="mt-6 max-w-6xl">
        <Alternatives job={job} data={data} />
      </section>
      <section aria-label="Decisions" className="mt-6 max-w-3xl">
        <h2 className="mb-1 font-semibold">Decisions</h2>
        <History job={job} data={data} role={role} />
      </section>
    </Scroll>
  );
}

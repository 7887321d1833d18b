import { Link } from "react-router";
import type { Connection, JointSolids } from "../api/types";
import { ItsChecks, ItsSizes, type Trial, Tried } from "../parts/made-of";
import { Utilisation } from "../parts/status";
import { toConnection } from "../paths";
import { plain, sentence } from "../words";
import type { Body } from "./bodies";

/** The piece that is picked: what it is, its checks, the sizes that make it, each to be tried in place. */
export function Picked({
  job,
  data,
  joint,
  body,
  trial,
  setTrial,
  error,
  waiting,
}: {
  job: string;
  data: Connection;
  joint: JointSolids;
  body: Body;
  trial: Trial;
  setTrial: (trial: Trial) => void;
  error: Error | null;
  waiting: boolean;
}) {
  const checks = body.own ? data.checks.filter((c) => c.part === body.part) : [];
  const names = body.own ? (joint.sizes[body.part] ?? []) : [];
  return (
    <section
      aria-label="The piece that is picked"
      className="max-h-64 overflow-y-auto border-t border-line bg-sheet px-3 py-2 @3xl:max-h-none @3xl:w-96 @3xl:border-l @3xl:border-t-0"
    >
      <p>
        <b>{plain(body.name)}</b> <span className="text-faint">{body.connection && `of ${body.connection}:`}</span>{" "}
        {sentence(body.words)}
        {body.used !== undefined && body.used > 0 && (
          <span className="ml-2 inline-block align-middle">
            <Utilisation value={body.used} />
          </span>
        )}
      </p>
      {!body.own && body.connection && (
        <Link to={`${toConnection(job, body.connection)}?view=3d`} className="underline underline-offset-2">
          open {body.connection}
        </Link>
      )}
      <ItsChecks checks={checks} />
      {trial && (
        <Tried
          side={joint.connections.find((c) => c.connection === joint.connection)}
          error={error}
          waiting={waiting}
        />
      )}
      <ItsSizes job={job} data={data} names={names} trial={trial} setTrial={setTrial} />
    </section>
  );
}

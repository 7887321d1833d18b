import { useState } from "react";
import { Link } from "react-router";
import type { Connection, JointSolids, Parameter } from "../api/types";
import { OverrideDialog } from "../parts/override-dialog";
import { StatusMark, Utilisation } from "../parts/status";
import { toConnection } from "../paths";
import { plain, sentence } from "../words";
import type { Body } from "./bodies";

const TRY = "rounded border border-line bg-white px-1.5 py-0.5 text-xs";
const SHOWN = 7; // parameters of a part; the rest is among the sizes

export type Trial = { parameter: string; value: string } | null;

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
  const checks = body.own ? data.checks.filter((c) => c.part === body.part && !(c.limit && c.utilisation <= 1)) : [];
  const names = body.own ? (joint.sizes[body.part] ?? []) : [];
  const sizes = names.map((name) => data.parameters.find((p) => p.name === name)).filter((p) => p !== undefined);
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
      {checks.length > 0 && (
        <p className="mt-1 text-xs text-faint">
          Checks:{" "}
          {checks.slice(0, 4).map((c, k) => (
            <span key={c.check}>
              {k > 0 && ", "}
              {plain(c.check)}{" "}
              <b className={c.utilisation > 1 ? "text-fail" : "text-ink"}>{c.utilisation.toFixed(2)}</b>
            </span>
          ))}
          {checks.length > 4 && ` and ${checks.length - 4} more`}
        </p>
      )}
      {trial && <Tried joint={joint} error={error} waiting={waiting} />}
      {sizes.length > 0 && (
        <ul className="mt-1 grid grid-cols-[minmax(0,170px)_minmax(80px,120px)_64px] items-center gap-x-2 gap-y-1">
          {sizes.slice(0, SHOWN).map((parameter) => (
            <Size
              key={`${parameter.name}${parameter.text}`}
              job={job}
              data={data}
              parameter={parameter}
              trial={trial}
              setTrial={setTrial}
            />
          ))}
        </ul>
      )}
      {sizes.length > SHOWN && <p className="text-xs text-faint">and {sizes.length - SHOWN} more, among the sizes</p>}
    </section>
  );
}

function Size({
  job,
  data,
  parameter,
  trial,
  setTrial,
}: {
  job: string;
  data: Connection;
  parameter: Parameter;
  trial: Trial;
  setTrial: (trial: Trial) => void;
}) {
  const [changing, setChanging] = useState(false);
  const own = trial?.parameter === parameter.name ? trial.value : undefined;
  const write = (value: string) =>
    setTrial(value.trim() && value !== parameter.text ? { parameter: parameter.name, value } : null);
  return (
    <li className="contents">
      <span className="truncate text-xs" title={parameter.help}>
        {parameter.label}
      </span>
      {parameter.choices.length ? (
        <select
          className={TRY}
          aria-label={`Try ${parameter.label}`}
          value={own ?? parameter.text}
          onChange={(e) => write(e.target.value)}
        >
          {parameter.choices.map((choice) => (
            <option key={choice} value={choice}>
              {plain(choice)}
            </option>
          ))}
        </select>
      ) : (
        <input
          className={TRY}
          aria-label={`Try ${parameter.label}`}
          value={own ?? parameter.text}
          onChange={(e) => write(e.target.value)}
        />
      )}
      <OverrideDialog
        job={job}
        data={data}
        parameter={parameter}
        open={changing}
        setOpen={setChanging}
        trigger={own ? "keep …" : "change"}
        first={own}
      />
    </li>
  );
}

/** What the size that is tried makes of the connection. */
function Tried({ joint, error, waiting }: { joint: JointSolids; error: Error | null; waiting: boolean }) {
  const own = joint.connections.find((c) => c.connection === joint.connection);
  if (error) return <p className="mt-1 text-fail">{error.message}</p>;
  if (waiting || !own) return <p className="mt-1 text-faint">working it out …</p>;
  return (
    <p className="mt-1 flex flex-wrap items-center gap-2" role="status">
      With it: <StatusMark status={own.status} /> <Utilisation value={own.utilisation} />
      {own.reason && <span className="text-fail">{sentence(own.reason)}</span>}
    </p>
  );
}

import { useState } from "react";
import type { Check, Connection, Parameter, Status } from "../api/types";
import { plain, sentence } from "../words";
import { OverrideDialog } from "./override-dialog";
import { StatusMark, Utilisation } from "./status";

const TRY = "rounded border border-line bg-white px-1.5 py-0.5 text-xs";
const SHOWN = 7; // parameters of a part; the rest is among the sizes

export type Trial = { parameter: string; value: string } | null;
export type Stands = { status: Status; utilisation: number; reason: string; also?: string[] };

/** The checks of a part, the worst first; those that only limit what may be counted are left out. */
export function ItsChecks({ checks }: { checks: Check[] }) {
  const own = checks.filter((c) => !(c.limit && c.utilisation <= 1));
  if (!own.length) return null;
  return (
    <p className="mt-1 text-xs text-faint">
      Checks:{" "}
      {own.slice(0, 4).map((c, k) => (
        <span key={c.check}>
          {k > 0 && ", "}
          {plain(c.check)} <b className={c.utilisation > 1 ? "text-fail" : "text-ink"}>{c.utilisation.toFixed(2)}</b>
        </span>
      ))}
      {own.length > 4 && ` and ${own.length - 4} more`}
    </p>
  );
}

/** The sizes that make a part, each to be tried in place. */
export function ItsSizes({
  job,
  data,
  names,
  trial,
  setTrial,
}: {
  job: string;
  data: Connection;
  names: string[];
  trial: Trial;
  setTrial: (trial: Trial) => void;
}) {
  const sizes = names.map((name) => data.parameters.find((p) => p.name === name)).filter((p) => p !== undefined);
  if (!sizes.length) return null;
  return (
    <>
      <ul className="mt-1 grid grid-cols-[minmax(104px,170px)_minmax(56px,120px)_52px] items-center gap-x-2 gap-y-1">
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
      {sizes.length > SHOWN && <p className="text-xs text-faint">and {sizes.length - SHOWN} more, among the sizes</p>}
    </>
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

/** How the connection comes out with a size that is tried. */
export function Tried({ side, error, waiting }: { side?: Stands; error: Error | null; waiting: boolean }) {
  if (error) return <p className="mt-1 text-fail">{error.message}</p>;
  if (waiting || !side) return <p className="mt-1 text-faint">working it out …</p>;
  return (
    <p className="mt-1 flex flex-wrap items-center gap-2" role="status">
      With it: <StatusMark status={side.status} /> <Utilisation value={side.utilisation} />
      {side.reason && <span className="text-fail">{sentence(side.reason)}</span>}
      {side.also && side.also.length > 0 && (
        <span className="text-xs">also, as the next run: {side.also.map(plain).join("; ")}</span>
      )}
    </p>
  );
}

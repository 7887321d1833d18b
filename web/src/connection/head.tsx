import { Link, useSearchParams } from "react-router";
import type { Connection } from "../api/types";
import { StatusMark, Used } from "../parts/status";
import { toConnection } from "../paths";
import { level, OVER_TARGET, plain, REMARKED, sentence } from "../words";
import { AskedHere } from "./asked";
import { Earlier } from "./earlier";
import { Remedies } from "./remedies";
import { Standing } from "./standing";
import { Ways } from "./ways";
import { Why } from "./why";

/** What it is, how it stands, what governs, what would help, and what else meets here. */
export function Head({ job, data, role }: { job: string; data: Connection; role: string }) {
  const from = useSearchParams()[0].get("from") ?? "";
  return (
    <header className="border-b border-line bg-sheet px-4 py-2">
      <Ways job={job} data={data} />
      <div className="flex items-baseline gap-3">
        <h1 className="text-base font-semibold">{data.connection}</h1>
        <StatusMark status={data.status} remarks={data.stale ? [] : data.remarks} />
        {data.over_target && (
          <span className="font-medium" style={{ color: OVER_TARGET.colour }}>
            {OVER_TARGET.mark} {OVER_TARGET.word}
          </span>
        )}
        {data.stale && <span className="font-medium text-[#8a5600]">⟳ stale</span>}
        <Used utilisation={data.utilisation} broken={data.status === "fail" ? data.broken : ""} wide />
        {data.check && (
          <span>
            {plain(data.check)} <span className="text-faint">({data.clause}) in</span> {data.action}
          </span>
        )}
        <span className="ml-auto text-faint">
          {data.code} {data.method}
          {data.standard && ` · target ${data.target.toFixed(2)}`}
        </span>
      </div>
      <p className="mt-0.5 text-faint">
        <b className="font-semibold text-ink">{data.section}</b>: {data.words} · joint {data.joint}{" "}
        {data.place ? `(${data.place})` : `at ${level(data.elevation, data.system)}`}
        {data.skew > 0.5 && ` · skew ${data.skew.toFixed(1)}°`}
        {data.slope > 0.5 && ` · slope ${data.slope.toFixed(1)}°`}
        {data.rule && ` · rule “${data.rule}”`} <Why job={job} data={data} />
      </p>
      <Standing job={job} data={data} role={role} />
      {data.reason && data.drawing && !(data.check && data.reason.startsWith(data.check)) && (
        <p className="mt-0.5 text-fail">{sentence(data.reason)}</p>
      )}
      {!data.stale && data.remarks.length > 0 && (
        <p className="mt-0.5" style={{ color: REMARKED.colour }}>
          {REMARKED.mark} {data.remarks.map(sentence).join("; ")}
        </p>
      )}
      <Remedies job={job} data={data} role={role} />
      <Earlier job={job} data={data} role={role} />
      <AskedHere job={job} data={data} role={role} />
      <p className="mt-1 flex flex-wrap gap-x-3 gap-y-0.5">
        <span className="text-faint">Same joint:</span>
        {data.neighbours.map((n) => (
          <Link
            key={n.connection}
            to={toConnection(job, n.connection, from)}
            className="underline-offset-2 hover:underline"
          >
            <StatusMark status={n.status} word={false} /> {n.connection} {n.section}
          </Link>
        ))}
        {!data.neighbours.length && <span className="text-faint">nothing else</span>}
      </p>
    </header>
  );
}

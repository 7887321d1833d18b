import { ArrowLeft, ChevronLeft, ChevronRight } from "lucide-react";
import { useEffect, useMemo, useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { useConnections, useGroupOf } from "../api/queries";
import type { Connection } from "../api/types";
import { listed } from "../listing";
import { useKeys } from "../parts/keys";
import { to, toConnection } from "../paths";

const OTHERS: Record<string, string | undefined> = { ledger: "Ledger", progress: "Progress" };

/** Back to the list or the joint it was opened from, and on to the next one there. */
export function Ways({ job, data }: { job: string; data: Connection }) {
  const from = useSearchParams()[0].get("from") ?? "";
  const [station, search = ""] = from.split("?");
  const query = useMemo(() => new URLSearchParams(search), [search]);
  const rows = useConnections(job, station === "joints").data;
  const group = useGroupOf(job, query);
  const names = useMemo(
    () =>
      station === "joints"
        ? listed(rows ?? [], query, group).map((row) => row.connection)
        : station === "model"
          ? [data, ...data.neighbours].map((c) => c.connection).sort()
          : [],
    [station, rows, query, group, data],
  );
  const here = names.indexOf(data.connection);
  const stood = useStood(here, data.connection);
  const go = useNavigate();
  const [last, next] = [names[stood - 1], names[here < 0 ? stood : here + 1]];
  const open = (name?: string) => (name ? () => go(toConnection(job, name, from)) : undefined);
  useKeys({ j: open(next), k: open(last) });
  const other = OTHERS[station];
  const back =
    station === "model"
      ? `Model, joint ${query.get("joint") ?? data.joint}`
      : (other ?? `Joints${words(query, station)}`);
  const place = station === "model" || other ? station : "joints";
  return (
    <nav className="flex items-center gap-2 text-xs" aria-label="Ways from here">
      <Link
        to={`${to(job, place)}${search && `?${search}`}`}
        className="flex items-center gap-1 underline-offset-2 hover:underline"
      >
        <ArrowLeft size={12} /> {back}
      </Link>
      {names.length > 1 && (
        <span className="ml-2 flex items-center gap-1">
          <Step name={last} words="Previous" job={job} from={from} />
          <span className="text-faint">{here < 0 ? "no longer in this list" : `${here + 1} of ${names.length}`}</span>
          <Step name={next} words="Next" job={job} from={from} />
        </span>
      )}
    </nav>
  );
}

/** Where a connection stands in its list, or stood before what was decided took it out: whoever works down a list goes on from there. */
function useStood(here: number, connection: string) {
  const [last, setLast] = useState({ connection, place: 0 });
  useEffect(() => {
    if (here >= 0) setLast({ connection, place: here });
  }, [here, connection]);
  return here >= 0 ? here : last.connection === connection ? last.place : 0;
}

function words(query: URLSearchParams, station: string) {
  const said = ["group", "status", "framing", "level", "tag", "person", "sequence", "text"]
    .map((name) => query.get(name))
    .filter(Boolean);
  return station === "joints" && said.length ? `: ${said.join(", ").replaceAll("_", " ")}` : "";
}

function Step({ name, words: say, job, from }: { name?: string; words: string; job: string; from: string }) {
  const mark = say === "Next" ? <ChevronRight size={13} /> : <ChevronLeft size={13} />;
  if (!name) return <span className="p-0.5 text-line">{mark}</span>;
  return (
    <Link
      to={toConnection(job, name, from)}
      aria-label={`${say}: ${name}`}
      title={`${say}: ${name}`}
      className="rounded border border-line p-0.5 hover:bg-white"
    >
      {mark}
    </Link>
  );
}

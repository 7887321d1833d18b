import { useEarlier } from "../api/decisions";
import type { Connection, EarlierDesigns } from "../api/types";
import { PutForward } from "../parts/put-forward";
import { share } from "../parts/status";
import { plain } from "../words";

type Design = EarlierDesigns["items"][number];
const SHOWN = 3;

/** Offered where a connection fails or no rule takes it: what passes between like members elsewhere, and passes here. */
export function Earlier({ job, data, role }: { job: string; data: Connection; role: string }) {
  const needs = data.status === "fail" || data.status === "unassigned";
  const { data: found } = useEarlier(job, data.connection, needs && role !== "viewer");
  const passing = found?.items.filter((one) => one.status === "pass") ?? [];
  if (!needs || !passing.length) return null;
  return (
    <p className="mt-1 flex flex-wrap items-baseline gap-x-2">
      <span className="text-faint">Earlier designs that pass here:</span>
      {passing.slice(0, SHOWN).map((one) => (
        <PutForward
          key={`${one.job} ${one.connection}`}
          job={job}
          connections={[data.connection]}
          changes={one.changes as Record<string, string>}
          trigger={`${one.summary}, used ${share(one.utilisation)}, as at ${origin(one, job)}`}
          title={`As at ${origin(one, job)}`}
          words={`${plain(one.standard)} ${one.summary}: ${one.count} connections have it. Worked out again here and kept as overrides that await an engineer’s word.`}
          act="Take it over"
        />
      ))}
    </p>
  );
}

const origin = (one: Design, job: string) => (one.job === job ? one.connection : `${one.connection} of ${one.job}`);

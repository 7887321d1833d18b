import type { Connection } from "../api/types";
import { ClearDialog } from "../parts/override-dialog";
import { plain } from "../words";

/** What people decided against the rules here. */
export function History({ job, data }: { job: string; data: Connection }) {
  if (!data.overrides.length)
    return (
      <p className="text-faint">Nobody has decided anything against the rules here. Change a size under “Sizes”.</p>
    );
  return (
    <ol className="space-y-3">
      {data.overrides.map((o) => (
        <li key={o.id} className="rounded border border-line bg-white p-3">
          <div className="flex items-baseline justify-between">
            <span className="font-semibold">
              {plain(o.parameter)}: {String(o.before.value)} → {o.value}
            </span>
            <span className="text-faint">{o.state}</span>
          </div>
          <p className="mt-1">“{o.reason}”</p>
          <p className="mt-1 flex items-center justify-between text-faint">
            <span>
              {o.author}, {o.made.replace("T", " ").replace("Z", " UTC")} · utilisation{" "}
              {Number(o.before.utilisation).toFixed(2)} → {Number(o.after.utilisation).toFixed(2)}
            </span>
            {["awaiting", "accepted"].includes(o.state) && <ClearDialog job={job} override={o} />}
          </p>
        </li>
      ))}
    </ol>
  );
}

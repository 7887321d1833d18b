import { useStep, useSteps } from "../api/changes";
import type { Connection } from "../api/types";
import { BUTTON, Refusal } from "../parts/dialog";
import { ClearDialog } from "../parts/override-dialog";
import { plain } from "../words";

/** What people decided against the rules here. */
export function History({ job, data }: { job: string; data: Connection }) {
  return (
    <>
      <Stepping job={job} moved={data.version} />
      <Decided job={job} data={data} />
    </>
  );
}

/** Back and forward through the person's own changes, wherever in the job they are. */
function Stepping({ job, moved }: { job: string; moved: number }) {
  const { data } = useSteps(job, moved);
  const step = useStep(job);
  if (!data || !(data.back || data.forward)) return null;
  return (
    <div className="mb-3">
      <div className="flex flex-wrap gap-2">
        {(["back", "forward"] as const).map((way) => {
          const words = data[way];
          return (
            words && (
              <button
                key={way}
                type="button"
                className={BUTTON}
                disabled={step.isPending}
                onClick={() => step.mutate(way)}
              >
                {way === "back" ? "← back over" : "→ forward to"} {plain(words)}
              </button>
            )
          );
        })}
      </div>
      <Refusal error={step.error} />
    </div>
  );
}

function Decided({ job, data }: { job: string; data: Connection }) {
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

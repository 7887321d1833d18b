import { useState } from "react";
import { useDiffering, useGoBack, useRulebookRevisions } from "../api/rules";
import { Refusal } from "../parts/dialog";

/** Every rulebook that the job had, what each says differently from the one before, and the way back. */
export function Revisions({ job, version, allowed }: { job: string; version: number; allowed: boolean }) {
  const { data = [] } = useRulebookRevisions(job);
  const [open, setOpen] = useState(0);
  const back = useGoBack(job);
  return (
    <div>
      <Refusal error={back.error} />
      <ol>
        {data.map((one) => (
          <li key={one.number} className="border-b border-line/60 py-1.5 text-xs">
            <div className="flex items-baseline gap-2">
              <button
                type="button"
                className="min-w-0 flex-1 text-left hover:underline"
                aria-expanded={open === one.number}
                onClick={() => setOpen(open === one.number ? 0 : one.number)}
              >
                <b>{one.number}</b> {one.name || "no name"}
                <span className="block text-faint">
                  {one.author || "before revisions were kept"}, {one.made.replace("T", " ").replace("Z", " UTC")}
                  {one.inherits ? `, on ${one.inherits}` : ""}
                </span>
              </button>
              {one.number === version ? (
                <span className="text-pass">in force</span>
              ) : (
                allowed && (
                  <button
                    type="button"
                    className="text-brass-dark underline-offset-2 hover:underline"
                    disabled={back.isPending}
                    onClick={() => back.mutate(one.number)}
                  >
                    go back to it
                  </button>
                )
              )}
            </div>
            {open === one.number && <Differences job={job} now={one.number} />}
          </li>
        ))}
      </ol>
    </div>
  );
}

function Differences({ job, now }: { job: string; now: number }) {
  const { data, error } = useDiffering(job, now - 1, now);
  if (now === 1) return <p className="mt-1 text-faint">the first</p>;
  if (error) return <Refusal error={error} />;
  if (!data) return <p className="mt-1 text-faint">comparing …</p>;
  if (!data.differences.length) return <p className="mt-1 text-faint">It says the same as the one before.</p>;
  return (
    <dl className="mt-1 space-y-1">
      {data.differences.map((one) => (
        <div key={`${one.what} ${one.name}`}>
          <dt className="font-semibold">
            {one.what} {one.name}
          </dt>
          {one.was && <dd className="text-fail">− {one.was}</dd>}
          {one.now && <dd className="text-pass">+ {one.now}</dd>}
        </div>
      ))}
    </dl>
  );
}

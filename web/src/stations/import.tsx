import { useEffect, useRef } from "react";
import { Link, useParams } from "react-router";
import type { Problem } from "../api/client";
import { useCancelImport, useImports, useRefresh } from "../api/queries";
import type { Import } from "../api/types";
import { Looking } from "../import/looking";
import { Problems } from "../import/problems";
import { Sending } from "../import/sending";
import { BUTTON } from "../parts/dialog";
import { refused, Trouble, Waiting } from "../parts/empty";
import { to } from "../paths";

const GOING = ["queued", "running"];

/** A model on its way in: sent, looked at, read, and the revision that it became. */
export function ImportStation() {
  const { job = "" } = useParams();
  const { data, error, refetch } = useImports(job);
  const last = data?.[0];
  const going = Boolean(last && GOING.includes(last.state));
  const refresh = useRefresh(job);
  const was = useRef(false);
  useEffect(() => {
    if (was.current && !going) refresh();
    was.current = going;
  }, [going, refresh]);
  if (refused(error, data)) return <Trouble error={error} retry={refetch} />;
  if (!data) return <Waiting what="the imports" />;
  if (last?.state === "held")
    return (
      <div className="h-full p-5">
        <Looking key={last.id} job={job} held={last} />
      </div>
    );
  return (
    <div className="h-full overflow-y-auto p-8">
      <div className="mx-auto max-w-3xl space-y-5">
        <h1 className="text-lg font-semibold">Import a model</h1>
        {last && <Outcome job={job} last={last} />}
        {!going && <Sending job={job} />}
      </div>
    </div>
  );
}

function Outcome({ job, last }: { job: string; last: Import }) {
  const cancel = useCancelImport(job);
  const going = GOING.includes(last.state);
  return (
    <section className="rounded-lg border border-line bg-sheet p-4" aria-label="Last import" role="status">
      <p className="flex items-center justify-between gap-3">
        <span className="truncate">
          <b>{last.name}</b> <span className="text-faint">sent by {last.author}</span>
        </span>
        {going && (
          <button type="button" className={BUTTON} onClick={() => cancel.mutate(last.id)}>
            Stop
          </button>
        )}
      </p>
      <p className={`mt-1 ${last.state === "failed" ? "text-fail" : ""}`}>{told(last)}</p>
      {going && (
        <div className="mt-2 h-1.5 overflow-hidden rounded-full bg-line">
          <div className="h-full bg-brass" style={{ width: `${(100 * last.done) / Math.max(last.total, 1)}%` }} />
        </div>
      )}
      {last.state === "done" && (
        <p className="mt-2">
          <Link to={to(job, "survey")} className="font-semibold text-brass-dark underline-offset-2 hover:underline">
            See its audit
          </Link>
        </p>
      )}
      <div className="mt-2">
        <Problems problems={last.problems as unknown as Problem[]} />
      </div>
    </section>
  );
}

function told(last: Import): string {
  if (last.state === "queued") return "Waiting for its turn";
  if (last.state === "running") return last.message || "Being read";
  if (last.state === "done") return `Done: revision R${last.revision} stands.`;
  return `${last.state === "failed" ? "Nothing was changed" : last.state}: ${last.message || "no reason was kept"}`;
}

import { Link } from "react-router";
import { useJobs } from "../api/queries";
import type { Job, Status } from "../api/types";
import { Empty, Trouble, Waiting } from "../parts/empty";
import { ORDER, STATUSES } from "../words";

/** The jobs that the person can see, each with how it stands. */
export function JobsStation() {
  const { data, error, refetch } = useJobs();
  if (error) return <Trouble error={error} retry={refetch} />;
  if (!data) return <Waiting what="jobs" />;
  if (!data.length)
    return (
      <Empty title="No jobs yet">
        An administrator makes one with <code>handrail job new NAME</code>, and gives you a role in it.
      </Empty>
    );
  return (
    <div className="mx-auto max-w-4xl p-8">
      <h1 className="mb-4 text-lg font-semibold">Jobs</h1>
      <ul className="space-y-3">
        {data.map((job) => (
          <li key={job.name}>
            <Link
              to={`/${job.name}`}
              className="block rounded-lg border border-line bg-sheet p-4 hover:border-brass-dark"
            >
              <div className="flex items-baseline justify-between">
                <span className="text-base font-semibold">{job.title}</span>
                <span className="text-faint">
                  {job.code} {job.method}
                </span>
              </div>
              <p className="mt-0.5 text-faint">
                {job.name} · {job.revision ? `R${job.revision.number}` : "no model yet"} · {job.joints} joints ·{" "}
                {job.connections} connections
              </p>
              <Standing job={job} />
            </Link>
          </li>
        ))}
      </ul>
    </div>
  );
}

function Standing({ job }: { job: Job }) {
  const parts = ORDER.filter((status) => job.statuses[status]);
  return (
    <>
      <div className="mt-3 flex h-2 overflow-hidden rounded-full">
        {parts.map((status) => (
          <span key={status} style={{ flexGrow: job.statuses[status], background: STATUSES[status].colour }} />
        ))}
      </div>
      <p className="mt-1.5 flex gap-4">
        {parts.map((status: Status) => (
          <span key={status} style={{ color: STATUSES[status].colour }}>
            {STATUSES[status].mark} {job.statuses[status]} {status}
          </span>
        ))}
      </p>
    </>
  );
}

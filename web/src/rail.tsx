import { NavLink, Outlet, useParams } from "react-router";
import { useAudit, useJob, useMe, useSignOut } from "./api/queries";
import type { Job, Revision } from "./api/types";
import { Asking } from "./parts/asking";
import { refused, Trouble } from "./parts/empty";
import { JobKeys } from "./parts/keys";
import { RunButton } from "./parts/run-button";
import { to, useNamedConnection } from "./paths";

/** The stages of the job as stations along one rail, each with what is left to do there. */
export function Rail() {
  const { job = "", connection } = useParams();
  const named = useNamedConnection();
  const leave = useSignOut();
  const { data, error, refetch, dataUpdatedAt } = useJob(job);
  const { data: me } = useMe();
  const { data: audit } = useAudit(job, Boolean(data?.revision));
  if (refused(error, data)) return <Trouble error={error} retry={refetch} jobs />;
  return (
    <div className="flex h-full">
      <nav className="flex w-44 shrink-0 flex-col bg-rail px-4 py-4 text-white" aria-label="Stations">
        <NavLink to="/" className="text-sm font-semibold tracking-wide text-brass">
          Hand Rail
        </NavLink>
        <p className="mt-1 line-clamp-2 text-xs text-white/75">{data?.title ?? " "}</p>
        <p className="text-[11px] text-white/75">
          {data
            ? data.revision
              ? `R${data.revision.number} (revision ${data.revision.label || "–"})`
              : "no model yet"
            : " "}
        </p>
        <ol className="relative mt-4 space-y-2.5 before:absolute before:inset-y-2 before:left-[5px] before:w-0.5 before:bg-white/20">
          <Station
            to={to(job, "survey")}
            name="Survey"
            words={surveyWords(audit)}
            alert={open(audit).some((f) => f.severity === "error")}
          />
          <Station to={to(job, "model")} name="Model" words={modelWords(data)} />
          <Station to={to(job, "patterns")} name="Patterns" words="joints that are alike" />
          <Station to={to(job, "rulebook")} name="Rulebook" words={ruleWords(data)} />
          <Station to={to(job, "joints")} name="Joints" words={jointWords(data)} alert={Boolean(data?.statuses.fail)} />
          <Station
            to={to(job, "ledger")}
            name="Ledger"
            words={ledgerWords(data)}
            alert={Boolean(data?.overrides_look || data?.ledger_faults.length)}
          />
          <Station to={to(job, "schedule")} name="Schedule" words="marks and their sizes" />
          <Station to={to(job, "issue")} name="Issue" words={issueWords(data)} />
          <Station to={to(job, "progress")} name="Progress" words={progressWords(data)} />
          {connection && <Station to={to(job, "connections", named)} name="Connection" words={named} />}
        </ol>
        <div className="mt-auto">
          <RunButton job={job} method={data?.method ?? "LRFD"} allowed={Boolean(data && data.role !== "viewer")} />
          {data && data.role !== "viewer" && (
            <NavLink
              to={to(job, "import")}
              className="mt-2 block w-full rounded border border-white/40 py-1 text-center text-xs aria-[current=page]:border-brass aria-[current=page]:text-brass"
            >
              Import a model
            </NavLink>
          )}
          <p className="mt-4 flex items-center justify-between text-[11px] text-white/75">
            <span>
              {me?.name}
              {data && data.role !== me?.name ? `, ${data.role}` : ""}
            </span>
            <button type="button" className="whitespace-nowrap underline-offset-2 hover:underline" onClick={leave}>
              Sign out
            </button>
          </p>
          <p className="mt-1 text-right text-[11px] text-white/75">
            <JobKeys job={job} />
          </p>
        </div>
      </nav>
      <main className="relative min-w-0 flex-1">
        {error && (
          <p role="alert" className="absolute inset-x-0 top-0 z-10 bg-fail px-4 py-1.5 text-center text-white">
            The service does not answer: what is shown is from {new Date(dataUpdatedAt).toLocaleTimeString()}.
          </p>
        )}
        <Outlet context={data} />
        <Asking />
      </main>
    </div>
  );
}

const open = (audit?: Revision) => audit?.audit.findings.filter((f) => !f.acknowledged && f.severity !== "note") ?? [];

function surveyWords(audit?: Revision) {
  if (!audit) return "";
  const left = open(audit).length;
  return left ? `${left} finding${left > 1 ? "s" : ""}` : "data in balance";
}

function modelWords(job?: Job) {
  if (!job) return "";
  const odd = job.framings.unrecognised ?? 0;
  return odd ? `${odd} unrecognised` : `${job.joints} joints framed`;
}

function issueWords(job?: Job) {
  if (!job) return "";
  const sent = job.last_transmittal;
  return sent ? `T${String(sent).padStart(3, "0")} was sent last` : "nothing sent yet";
}

function ruleWords(job?: Job) {
  if (!job) return "";
  const none = job.statuses.unassigned ?? 0;
  if (!job.rulebook_version) return "none yet";
  return `revision ${job.rulebook_version}${none ? `, ${none} unassigned` : ""}`;
}

function jointWords(job?: Job) {
  if (!job) return "";
  const left = [
    job.statuses.fail && `${job.statuses.fail} fail`,
    job.statuses.unchecked > job.stale && `${job.statuses.unchecked - job.stale} unchecked`,
    job.stale && `${job.stale} stale`,
    job.statuses.unassigned && `${job.statuses.unassigned} unassigned`,
  ].filter(Boolean);
  return left.length ? left.join(", ") : "nothing left";
}

function ledgerWords(job?: Job) {
  if (!job) return "";
  const left = [
    job.ledger_faults.length && "not what was signed",
    job.overrides_awaiting && `${job.overrides_awaiting} awaiting`,
    job.overrides_look && `${job.overrides_look} to look at again`,
  ].filter(Boolean);
  return left.length ? left.join(", ") : "nothing waits";
}

function progressWords(job?: Job) {
  if (!job) return "";
  return job.stale ? `${job.stale} stale` : `${job.released} released`;
}

function Station({ to, name, words, alert }: { to: string; name: string; words: string; alert?: boolean }) {
  return (
    <li>
      <NavLink to={to} className="group relative block pl-6">
        {({ isActive }) => (
          <>
            <span
              className={`absolute left-0 top-1 size-3 rounded-full border-2 ${isActive ? "border-brass bg-brass" : "border-white/50 bg-rail group-hover:border-brass"}`}
            />
            <span className={`block text-sm ${isActive ? "font-semibold text-white" : "text-white/80"}`}>{name}</span>
            <span className={`block text-[11px] leading-snug ${alert ? "text-[#f0a196]" : "text-white/75"}`}>
              {words}
            </span>
          </>
        )}
      </NavLink>
    </li>
  );
}

import { LogOut } from "lucide-react";
import { type FormEvent, useState } from "react";
import { Link, useNavigate } from "react-router";
import { type Named, useJobs, useMe, useNewJob, useSignOut } from "../api/queries";
import { useHouse } from "../api/rules";
import type { Job, Status } from "../api/types";
import { Choice } from "../parts/choice";
import { BUTTON, FIELD, Frame, PRIMARY, Refusal } from "../parts/dialog";
import { Empty, refused, Trouble, Waiting } from "../parts/empty";
import { useKeys } from "../parts/keys";
import { to } from "../paths";
import { ORDER, STATUSES } from "../words";

/** The jobs that the person can see, each with how it stands. */
export function JobsStation() {
  const { data, error, refetch } = useJobs();
  const { data: me } = useMe();
  const leave = useSignOut();
  if (refused(error, data)) return <Trouble error={error} retry={refetch} />;
  if (!data) return <Waiting what="jobs" />;
  return (
    <main className="mx-auto max-w-4xl p-8">
      <header className="mb-4 flex items-center gap-3">
        <h1 className="flex-1 text-lg font-semibold">Jobs</h1>
        <Link to="/-/bench" className={BUTTON}>
          Bench: a connection alone
        </Link>
        <Link to="/-/designs" className={BUTTON}>
          House designs
        </Link>
        <Link to="/-/catalogue" className={BUTTON}>
          House catalogue
        </Link>
        {me?.admin && <NewJob />}
        <button type="button" className={`${BUTTON} flex items-center gap-1.5`} onClick={leave}>
          <LogOut size={13} /> Sign out {me?.name}
        </button>
      </header>
      {data.length === 0 && (
        <Empty title="No jobs yet">
          {me?.admin
            ? "Make the first one above."
            : "An administrator makes one with `handrail job new NAME`, and gives you a role in it."}
        </Empty>
      )}
      {data.length > 0 && <List jobs={data} />}
    </main>
  );
}

const ORDERS = [
  { value: "waits", words: "what waits first" },
  { value: "changed", words: "the last changed first" },
  { value: "name", words: "by name" },
];

/** What waits for somebody in a job: decisions to be reviewed or looked at again, results to be run again. */
const waiting = (job: Job) => job.overrides_awaiting + job.overrides_look + job.stale + job.ledger_faults.length;

/** Found by name, title or person; what waits, what has changed last and who is in it. */
function List({ jobs }: { jobs: Job[] }) {
  const [text, setText] = useState("");
  const [order, setOrder] = useState("waits");
  useKeys({ "/": () => document.querySelector<HTMLInputElement>("[data-find]")?.focus() });
  const wanted = text.trim().toLowerCase();
  const found = jobs
    .filter((job) => `${job.name} ${job.title} ${job.people.join(" ")}`.toLowerCase().includes(wanted))
    .sort((a, b) =>
      order === "name"
        ? a.title.localeCompare(b.title)
        : (order === "waits" ? Math.sign(waiting(b) - waiting(a)) : 0) ||
          b.last_change.made.localeCompare(a.last_change.made),
    );
  return (
    <>
      {jobs.length > 1 && (
        <div className="mb-3 flex items-center gap-3">
          <input
            data-find
            aria-label="Find a job"
            placeholder="find a job, or a person in it …"
            value={text}
            onChange={(event) => setText(event.target.value)}
            className={`${FIELD} mt-0 flex-1`}
          />
          <Choice label="Order of the jobs" value={order} options={ORDERS} onChange={setOrder} />
        </div>
      )}
      {!found.length && <p className="text-faint">No job is called that, and nobody of that name is in one.</p>}
      <ul className={found.length > 4 ? "space-y-1.5" : "space-y-3"}>
        {found.map((job) => (
          <li key={job.name}>
            <Link
              to={to(job.name)}
              className={`block rounded-lg border border-line bg-sheet hover:border-brass-dark ${found.length > 4 ? "px-4 py-2" : "p-4"}`}
            >
              <div className="flex items-baseline justify-between gap-4">
                <span className="text-base font-semibold">{job.title}</span>
                <Waits job={job} />
              </div>
              <p className="mt-0.5 flex justify-between gap-4 text-faint">
                <span>
                  {job.name} · {job.revision ? `R${job.revision.number}` : "no model yet"} · {job.connections}{" "}
                  connections · {job.code} {job.method}
                </span>
                <span className="text-right">
                  {job.last_change.what}, {job.last_change.author}, {ago(job.last_change.made)}
                  {job.people.length > 0 && ` · ${job.people.join(", ")}`}
                </span>
              </p>
              <Standing job={job} />
            </Link>
          </li>
        ))}
      </ul>
    </>
  );
}

function Waits({ job }: { job: Job }) {
  const said = [
    job.ledger_faults.length > 0 && "not what was signed",
    job.overrides_awaiting > 0 && `${job.overrides_awaiting} to review`,
    job.overrides_look > 0 && `${job.overrides_look} to look at again`,
    job.stale > 0 && `${job.stale} to run again`,
  ].filter(Boolean);
  return said.length ? (
    <span className="font-medium text-[#8a5600]">{said.join(", ")}</span>
  ) : (
    <span className="text-faint">nothing waits</span>
  );
}

/** How long ago, in words. */
function ago(made: string) {
  const minutes = Math.max(0, (Date.now() - Date.parse(made)) / 60_000);
  if (minutes < 2) return "just now";
  if (minutes < 120) return `${Math.round(minutes)} minutes ago`;
  if (minutes < 48 * 60) return `${Math.round(minutes / 60)} hours ago`;
  return `${Math.round(minutes / 1440)} days ago`;
}

/** A job begins with a name; its model and its rulebook follow. */
function NewJob() {
  const [open, setOpen] = useState(false);
  const [wanted, setWanted] = useState<Named>({ name: "", title: "", method: "LRFD" });
  const make = useNewJob();
  const go = useNavigate();
  const { data: kept } = useHouse(open);
  const approved = newest(kept ?? []);
  const begun = wanted.rulebook ?? (approved.length === 1 ? approved[0] : approved.length ? "?" : "");
  const submit = (event: FormEvent) => {
    event.preventDefault();
    make.mutate({ ...wanted, rulebook: begun === "none" ? "" : begun }, { onSuccess: (job) => go(to(job.name)) });
  };
  return (
    <Frame
      trigger="New job"
      look={PRIMARY}
      title="New job"
      words="To AISC 360-22. Its model is imported next."
      open={open}
      setOpen={setOpen}
    >
      <form onSubmit={submit}>
        <label className="block">
          <span className="text-faint">Name: small letters, digits and hyphens, as in addresses and commands</span>
          <input
            required
            value={wanted.name}
            onChange={(event) => setWanted({ ...wanted, name: event.target.value })}
            className={FIELD}
          />
        </label>
        <label className="mt-3 block">
          <span className="text-faint">Title</span>
          <input
            value={wanted.title}
            onChange={(event) => setWanted({ ...wanted, title: event.target.value })}
            className={FIELD}
          />
        </label>
        <div className="mt-3">
          <span className="text-faint">Method</span>
          <Choice
            label="Method"
            value={wanted.method}
            options={[
              { value: "LRFD", words: "LRFD: strengths by load factors" },
              { value: "ASD", words: "ASD: allowable strengths" },
            ]}
            onChange={(method) => setWanted({ ...wanted, method: method as Named["method"] })}
            className="mt-1 w-full"
          />
        </div>
        {approved.length > 0 && (
          <div className="mt-3">
            <span className="text-faint">Begins with the house's rulebook</span>
            <Choice
              label="Rulebook"
              value={begun ?? ""}
              options={[
                ...(approved.length > 1 ? [{ value: "?", words: "choose one" }] : []),
                ...approved.map((called) => ({ value: called, words: called })),
                { value: "none", words: "none: rules of its own" },
              ]}
              onChange={(rulebook) => setWanted({ ...wanted, rulebook })}
              className="mt-1 w-full"
            />
          </div>
        )}
        <Refusal error={make.error} />
        <div className="mt-4 flex justify-end gap-2">
          <button type="button" className={BUTTON} onClick={() => setOpen(false)}>
            Leave it
          </button>
          <button type="submit" className={PRIMARY} disabled={!wanted.name || begun === "?" || make.isPending}>
            Make the job
          </button>
        </div>
      </form>
    </Frame>
  );
}

/** The newest approved revision of each of the house's rulebooks. */
function newest(kept: { name: string; called: string; state: string; number: number }[]): string[] {
  const found = new Map<string, { called: string; number: number }>();
  for (const own of kept.filter((k) => k.state === "approved"))
    if (own.number > (found.get(own.name)?.number ?? -1)) found.set(own.name, own);
  return [...found.values()].map((own) => own.called);
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

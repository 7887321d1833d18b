import { useState } from "react";
import { useOutletContext, useParams } from "react-router";
import { useAddress } from "../address";
import { type Asked, type Mark, useDecisions, useVerified } from "../api/decisions";
import type { Decisions, Job } from "../api/types";
import { ReviewDialog } from "../ledger/review";
import { DecisionTable, MARKS } from "../ledger/table";
import { Choice } from "../parts/choice";
import { BUTTON } from "../parts/dialog";
import { Empty, refused, Trouble, Waiting } from "../parts/empty";
import { Scroll } from "../parts/scroll";

const TABS = [
  ["awaiting", "awaiting"],
  ["look", "to look at again"],
  ["accepted", "accepted"],
  ["returned", "returned"],
  ["", "all"],
] as const;

const MOST = 1000; // rows that a page shows without a stutter

/** Every decision against the rules: what waits for a word, what holds, what asks to be looked at again. */
export function LedgerStation() {
  const { job = "" } = useParams();
  const info = useOutletContext<Job | undefined>();
  const [query, set] = useAddress();
  const state = query.get("state") ?? "awaiting";
  const asked: Asked = Object.fromEntries(
    ["author", "cause", "level", "mark", "pattern"].map((name) => [name, query.get(name) ?? ""]),
  );
  const { data, error, refetch } = useDecisions(job, { ...asked, state: state === "all" ? "" : state, limit: MOST });
  const [picked, setPicked] = useState(new Set<number>());
  if (refused(error, data)) return <Trouble error={error} retry={refetch} />;
  if (!data || !info) return <Waiting what="decisions" />;
  const shown = new Set(data.items.map((o) => o.id as number));
  const here = new Set([...picked].filter((id) => shown.has(id)));
  const pick = (id: number, all = false) => {
    const next = new Set(here);
    if (all) setPicked(here.size === shown.size ? new Set() : shown);
    else {
      if (!next.delete(id)) next.add(id);
      setPicked(next);
    }
  };
  return (
    <div className="flex h-full flex-col">
      <header className="flex flex-wrap items-center gap-2 border-b border-line bg-sheet px-4 py-2.5">
        <h1 className="mr-2 text-base font-semibold">Ledger</h1>
        {TABS.map(([name, words]) => {
          const on = (state === "all" ? "" : state) === name;
          const number = name && data.counts[name as keyof Decisions["counts"]];
          return (
            <button
              key={words}
              type="button"
              aria-pressed={on}
              onClick={() => set("state", name || "all")}
              className={`rounded-full border px-2.5 py-0.5 ${on ? "border-current bg-white font-semibold" : "border-line text-faint"}`}
            >
              {name && `${number} `}
              {words}
            </button>
          );
        })}
        <Filters data={data} query={query} set={set} />
      </header>
      {data.items.length ? (
        <Scroll label="Decisions" className="min-h-0 flex-1 overflow-auto">
          <DecisionTable job={job} items={data.items} picked={here} pick={pick} />
          {data.total > data.items.length && (
            <p className="px-4 py-2 text-faint">
              The newest {data.items.length} of {data.total} are shown: filter for the others.
            </p>
          )}
        </Scroll>
      ) : (
        <Empty title={state === "awaiting" ? "No decision awaits a word" : "No decision is like that"}>
          A size, a standard or a framing condition that somebody sets on a connection stands here, with the reason.
        </Empty>
      )}
      <Acts job={job} ids={[...here]} role={info.role ?? "viewer"} done={() => setPicked(new Set())} />
    </div>
  );
}

function Filters({
  data,
  query,
  set,
}: {
  data: Decisions;
  query: URLSearchParams;
  set: (name: string, value: string) => void;
}) {
  const offered: [string, string, { value: string; words: string }[]][] = [
    ["author", "everybody", data.authors.map((name) => ({ value: name, words: `by ${name}` }))],
    ["cause", "every reason", data.causes.map((name) => ({ value: name, words: name }))],
    ["level", "every level", data.levels.map((name) => ({ value: name, words: `level ${name}` }))],
    ["mark", "all of them", (Object.keys(MARKS) as Mark[]).map((mark) => ({ value: mark, words: MARKS[mark] }))],
  ];
  return (
    <span className="ml-auto flex gap-2">
      {offered.map(([name, every, options]) => (
        <Choice
          key={name}
          label={`Filter by ${name}`}
          value={query.get(name) ?? ""}
          options={[{ value: "", words: every }, ...options]}
          onChange={(value) => set(name, value)}
        />
      ))}
      <input
        defaultValue={query.get("pattern") ?? ""}
        placeholder="pattern"
        aria-label="Filter by pattern, like P1"
        className="w-20 rounded border border-line bg-white px-2 py-1"
        onKeyDown={(event) => event.key === "Enter" && set("pattern", event.currentTarget.value.trim())}
        onBlur={(event) => set("pattern", event.currentTarget.value.trim())}
      />
    </span>
  );
}

/** What can be done with those that are picked; whether the ledger is sound, and the whole of it as a file. */
function Acts({ job, ids, role, done }: { job: string; ids: number[]; role: string; done: () => void }) {
  const [checking, setChecking] = useState(false);
  const verified = useVerified(job, checking);
  const engineer = role === "engineer" || role === "admin";
  return (
    <footer className="flex items-center gap-2 border-t border-line bg-sheet px-4 py-2">
      {role !== "viewer" && ids.length > 0 ? (
        <>
          <span className="text-faint">{ids.length} picked:</span>
          {engineer && <ReviewDialog job={job} act="accept" ids={ids} done={done} />}
          {engineer && <ReviewDialog job={job} act="return" ids={ids} done={done} />}
          <ReviewDialog job={job} act="confirm" ids={ids} done={done} />
          <ReviewDialog job={job} act="clear" ids={ids} done={done} />
        </>
      ) : (
        <span className="text-faint">
          {role === "viewer"
            ? "You see this job; a detailer or engineer decides."
            : "Pick decisions to accept, return, confirm or clear them."}
        </span>
      )}
      <span className="ml-auto flex items-center gap-3">
        {checking && verified.data && (
          <span role="status" className={verified.data.sound ? "text-[#23765a]" : "text-fail"}>
            {verified.data.sound
              ? `✓ ${verified.data.entries} entries, each follows from the one before`
              : `✕ ${verified.data.faults[0]}${verified.data.faults.length > 1 ? ` (and ${verified.data.faults.length - 1} more)` : ""}`}
          </span>
        )}
        <button type="button" className={BUTTON} onClick={() => (checking ? verified.refetch() : setChecking(true))}>
          Verify the ledger
        </button>
        <a className="underline-offset-2 hover:underline" href={`/api/v1/jobs/${encodeURIComponent(job)}/ledger.csv`}>
          as CSV
        </a>
        <a
          className="underline-offset-2 hover:underline"
          href={`/api/v1/jobs/${encodeURIComponent(job)}/ledger`}
          download={`${job}-ledger.json`}
        >
          as JSON
        </a>
      </span>
    </footer>
  );
}

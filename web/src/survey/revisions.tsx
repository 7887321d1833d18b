import { Link } from "react-router";
import { useAddress } from "../address";
import { useComparison, useRevisions } from "../api/queries";
import type { Comparison } from "../api/types";
import { Choice } from "../parts/choice";
import { Trouble, Waiting } from "../parts/empty";
import { to } from "../paths";
import { plain } from "../words";

const KINDS = ["new", "gone", "moved", "resized", "released", "framed", "renamed", "reloaded"] as const;
const WORDS: Record<string, string> = {
  framed: "framed otherwise",
  released: "released otherwise",
  reloaded: "loaded otherwise",
};
const SHOWN = 300;

/** What changed from one revision to another, by kind; forces the worst first. */
export function RevisionsPanel({ job }: { job: string }) {
  const { data: revisions, error, refetch } = useRevisions(job);
  const [query, set] = useAddress();
  if (error) return <Trouble error={error} retry={refetch} />;
  if (!revisions) return <Waiting what="the revisions" />;
  const last = revisions[0]?.number ?? 1;
  const fresh = Number(query.get("new") ?? last);
  const old = Number(query.get("old") ?? fresh - 1);
  const options = revisions.map((r) => ({
    value: String(r.number),
    words: `R${r.number}, revision ${r.label || "–"}, ${r.author}, ${r.made.slice(0, 10)}`,
  }));
  return (
    <div>
      <div className="flex items-center gap-3">
        <span>From</span>
        <Choice label="From" value={String(old)} options={options} onChange={(value) => set("old", value)} />
        <span>to</span>
        <Choice label="To" value={String(fresh)} options={options} onChange={(value) => set("new", value)} />
      </div>
      {revisions.length < 2 ? (
        <p className="mt-4 text-faint">There is one revision yet: import the next to compare it with.</p>
      ) : (
        <Compared job={job} old={old} fresh={fresh} />
      )}
    </div>
  );
}

function Compared({ job, old, fresh }: { job: string; old: number; fresh: number }) {
  const { data, error, refetch } = useComparison(job, old, fresh);
  const [query, set] = useAddress();
  if (error) return <Trouble error={error} retry={refetch} />;
  if (!data) return <Waiting what="both revisions" />;
  const kind = query.get("kind") ?? "";
  const of = (name: string) => data.changes.filter((c) => c.kind === name).length;
  const shown = data.changes.filter((c) => !kind || c.kind === kind);
  return (
    <>
      <div className="mt-4 flex flex-wrap gap-2" role="toolbar" aria-label="Kinds of change">
        <Kind name="" words={`all ${data.changes.length}`} kind={kind} set={set} />
        {KINDS.filter(of).map((name) => (
          <Kind key={name} name={name} words={`${of(name)} ${WORDS[name] ?? name}`} kind={kind} set={set} />
        ))}
        <span className="self-center text-faint">{data.unchanged} members as they were</span>
      </div>
      <Changes job={job} changes={shown.slice(0, SHOWN)} />
      {shown.length > SHOWN && <p className="mt-2 text-faint">and {shown.length - SHOWN} more</p>}
    </>
  );
}

function Kind({
  name,
  words,
  kind,
  set,
}: {
  name: string;
  words: string;
  kind: string;
  set: (name: string, value: string) => void;
}) {
  return (
    <button
      type="button"
      aria-pressed={kind === name}
      className={`rounded-full border px-3 py-1 ${kind === name ? "border-rail bg-rail text-white" : "border-line bg-sheet"}`}
      onClick={() => set("kind", name)}
    >
      {words}
    </button>
  );
}

function Changes({ job, changes }: { job: string; changes: Comparison["changes"] }) {
  if (!changes.length) return <p className="mt-4 font-semibold">Nothing changed.</p>;
  return (
    <table className="mt-3 w-full text-left text-xs">
      <thead className="text-faint">
        <tr>
          {["change", "what", "was", "is now", "of its section's strength", "joints"].map((name) => (
            <th key={name} className="py-1 pr-3 font-normal">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {changes.map((c) => (
          <tr key={`${c.kind}${c.name}${c.was}`} className="border-t border-line/60">
            <td className="py-1 pr-3">{WORDS[c.kind] ?? c.kind}</td>
            <td className="pr-3 font-medium">{c.name}</td>
            <td className="pr-3">{plain(c.was)}</td>
            <td className="pr-3">{plain(c.now)}</td>
            <td className="pr-3">{c.share ? `${(100 * c.share).toFixed(0)} %` : ""}</td>
            <td className="space-x-2">
              {c.kind === "gone"
                ? c.joints.join(", ")
                : c.joints.map((joint) => (
                    <Link
                      key={joint}
                      className="text-brass-dark underline-offset-2 hover:underline"
                      to={`${to(job, "model")}?joint=${encodeURIComponent(joint)}&by=change`}
                    >
                      {joint}
                    </Link>
                  ))}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

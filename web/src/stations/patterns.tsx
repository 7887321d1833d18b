import { useOutletContext, useParams } from "react-router";
import { useAddress } from "../address";
import { useGroups, usePatterns } from "../api/queries";
import type { Job } from "../api/types";
import { NoModel, refused, Trouble, Waiting } from "../parts/empty";
import { Scroll } from "../parts/scroll";
import { GroupPanel } from "../patterns/groups";
import { PatternPanel } from "../patterns/pattern";

/** Joints that are alike, however they are turned or mirrored, with everything that acts on them. */
export function PatternsStation() {
  const { job = "" } = useParams();
  const info = useOutletContext<Job | undefined>();
  const { data, error, refetch } = usePatterns(job);
  const [query, set] = useAddress();
  if (info && !info.revision) return <NoModel job={job} />;
  if (refused(error, data)) return <Trouble error={error} retry={refetch} />;
  if (!data) return <Waiting what="the patterns" />;
  const group = query.get("group") ?? "";
  const allowed = Boolean(info && info.role !== "viewer");
  const picked = group ? "" : (query.get("pattern") ?? data[0]?.name ?? "");
  const alone = data.filter((p) => p.joints === 1).length;
  return (
    <div className="grid h-full grid-cols-[300px_minmax(0,1fr)]">
      <Scroll label="Patterns" className="border-r border-line">
        <header className="border-b border-line px-4 py-3">
          <h1 className="text-base font-semibold">{data.length} patterns</h1>
          <p className="text-faint">Joints alike up to turning and mirroring; {alone} stand alone</p>
        </header>
        <Groups job={job} picked={group} onPick={(name) => set("group", name)} />
        <ul>
          {data.map((p) => (
            <li key={p.name}>
              <button
                type="button"
                aria-pressed={picked === p.name}
                onClick={() => {
                  set("pattern", p.name);
                  set("place", "");
                  set("group", "");
                }}
                className={`block w-full border-b border-line/60 px-4 py-2 text-left ${picked === p.name ? "bg-brass/20" : "hover:bg-sheet"}`}
              >
                <span className="flex justify-between">
                  <b>{p.name}</b>
                  <span>
                    {p.joints} joint{p.joints > 1 ? "s" : ""}
                    {p.mirrored > 0 && <span className="text-faint">, {p.mirrored} mirrored</span>}
                  </span>
                </span>
                <span className="line-clamp-2 text-xs text-faint">{summed(p.slots)}</span>
              </button>
            </li>
          ))}
        </ul>
      </Scroll>
      {group ? (
        <GroupPanel key={group} job={job} name={group} allowed={allowed} onGone={() => set("group", "")} />
      ) : (
        picked && <PatternPanel key={picked} job={job} name={picked} system={info?.system ?? "us"} allowed={allowed} />
      )}
    </div>
  );
}

/** The groups that people made, over the patterns that were found. */
function Groups({ job, picked, onPick }: { job: string; picked: string; onPick: (name: string) => void }) {
  const { data } = useGroups(job);
  if (!data?.length) return null;
  return (
    <div className="border-b border-line px-4 py-2">
      <h2 className="text-faint">Groups, made by hand</h2>
      <p className="mt-1 flex flex-wrap gap-1">
        {data.map((g) => (
          <button
            type="button"
            key={g.name}
            aria-pressed={picked === g.name}
            onClick={() => onPick(g.name)}
            className={`rounded border px-2 py-0.5 ${picked === g.name ? "border-brass bg-brass/20" : "border-line bg-sheet"}`}
          >
            {g.name} <span className="text-faint">{g.connections}</span>
          </button>
        ))}
      </p>
    </div>
  );
}

/** What meets, each once with how often. */
function summed(slots: string[]) {
  const counts = new Map<string, number>();
  for (const slot of slots) counts.set(slot, (counts.get(slot) ?? 0) + 1);
  return [...counts.entries()].map(([words, n]) => (n > 1 ? `${n} × ${words}` : words)).join("; ");
}

import { Link } from "react-router";
import { useDropGroup, useGroup } from "../api/queries";
import { Trouble, Waiting } from "../parts/empty";
import { Scroll } from "../parts/scroll";
import { StatusMark } from "../parts/status";
import { to } from "../paths";
import { ORDER, plain } from "../words";

/** One group that people made: how it stands, what its connections have in common, and in what they differ. */
export function GroupPanel({
  job,
  name,
  allowed,
  onGone,
}: {
  job: string;
  name: string;
  allowed: boolean;
  onGone: () => void;
}) {
  const { data, error, refetch } = useGroup(job, name);
  const drop = useDropGroup(job);
  if (error) return <Trouble error={error} retry={refetch} />;
  if (!data) return <Waiting what={name} />;
  return (
    <Scroll label={name} className="p-5">
      <h2 className="text-base font-semibold">{data.name}</h2>
      <p className="text-faint">
        {data.connections} connections, put together by {data.author}
      </p>
      <p className="mt-2 flex gap-4">
        {ORDER.filter((s) => data.statuses[s]).map((s) => (
          <span key={s}>
            <StatusMark status={s} /> {data.statuses[s]}
          </span>
        ))}
      </p>
      <p className="mt-3 flex gap-2">
        <Link
          className="rounded border border-line bg-sheet px-2 py-1"
          to={`${to(job, "joints")}?group=${encodeURIComponent(name)}`}
        >
          open as a list
        </Link>
        <Link
          className="rounded border border-line bg-sheet px-2 py-1"
          to={to(job, "model")}
          state={{ picked: data.keys }}
        >
          see in the model
        </Link>
        {allowed && (
          <button
            type="button"
            className="rounded border border-line bg-sheet px-2 py-1 text-fail"
            onClick={() => drop.mutate(name, { onSuccess: onGone })}
          >
            take the group away
          </button>
        )}
      </p>
      <h3 className="mt-5 font-semibold">Differ in</h3>
      <Said rows={Object.entries(data.differ).map(([what, values]) => [what, counted(values)])} />
      <h3 className="mt-5 font-semibold">Alike in</h3>
      <Said rows={Object.entries(data.common).map(([what, value]) => [what, plain(value) || "none"])} />
    </Scroll>
  );
}

function Said({ rows }: { rows: [string, string][] }) {
  return (
    <dl className="mt-1 grid grid-cols-[220px_1fr] gap-y-0.5">
      {rows.map(([what, words]) => (
        <div key={what} className="contents">
          <dt className="text-faint">{plain(what)}</dt>
          <dd>{words}</dd>
        </div>
      ))}
    </dl>
  );
}

const MOST = 8;

function counted(values: Record<string, number>) {
  const all = Object.entries(values).map(([value, n]) => `${plain(value) || "none"} (${n})`);
  return all.slice(0, MOST).join(", ") + (all.length > MOST ? `, ${all.length - MOST} more` : "");
}

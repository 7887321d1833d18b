import { Link, useOutletContext, useParams } from "react-router";
import { useProgress } from "../api/team";
import type { Counts, Job } from "../api/types";
import { AskedPart } from "../asked/list";
import { Empty, refused, Trouble, Waiting } from "../parts/empty";
import { Scroll } from "../parts/scroll";
import { to } from "../paths";
import { Bar, COLUMNS, Days } from "../progress/parts";
import { ReservePart } from "../progress/reserve";
import { RevisedPart } from "../progress/revised";

const PARTS = [
  ["level", "By level"],
  ["sequence", "By erection sequence"],
  ["person", "By person"],
] as const;

/** How far the job is, how that moved, and what the last revision left standing. */
export function ProgressStation() {
  const { job = "" } = useParams();
  const info = useOutletContext<Job | undefined>();
  const { data, error, refetch } = useProgress(job);
  if (refused(error, data)) return <Trouble error={error} retry={refetch} />;
  if (!data) return <Waiting what="progress" />;
  if (!data.now.total) return <Empty title="No connections yet">Import a model first.</Empty>;
  const parts = PARTS.filter(([name]) => data[name].some((part) => part.name));
  return (
    <Scroll label="Progress" className="h-full overflow-y-auto px-6 py-4">
      <h1 className="text-base font-semibold">Progress</h1>
      <p className="text-faint">
        Done: pass or elsewhere, and no decision on it awaits a word or asks to be looked at again. Released: an
        engineer said that it may be drawn.
      </p>
      <Table title="Job" rows={[{ ...data.now, name: "all of it" }]} />
      <div className="mt-3 space-y-4">
        {parts.map(([name, title]) => (
          <Table
            key={name}
            title={title}
            rows={data[name]}
            at={(part) => (part ? `${to(job, "joints")}?${new URLSearchParams({ [name]: part })}` : undefined)}
          />
        ))}
      </div>
      <h2 className="mb-1 mt-6 font-semibold">Queries to the engineer of record</h2>
      <AskedPart job={job} role={info?.role ?? "viewer"} />
      <h2 className="mb-1 mt-6 font-semibold">Day by day</h2>
      {data.days.length ? (
        <Days days={data.days} />
      ) : (
        <p className="text-faint">The first day is noted within a minute.</p>
      )}
      <h2 className="mb-1 mt-6 font-semibold">After the last revision of the model</h2>
      <RevisedPart job={job} />
      <h2 className="mb-1 mt-6 font-semibold">In reserve</h2>
      <ReservePart job={job} system={info?.system ?? "us"} role={info?.role ?? "viewer"} />
    </Scroll>
  );
}

type Part = Counts & { name: string };

function Table({ title, rows, at }: { title: string; rows: Part[]; at?: (name: string) => string | undefined }) {
  const shown = COLUMNS.filter(
    ([name]) => ["total", "done", "released", "fail"].includes(name) || rows.some((row) => row[name]),
  );
  return (
    <table className="mt-3 table-fixed" aria-label={title}>
      <thead className="text-left text-xs text-faint">
        <tr className="border-b border-line">
          <th className="w-44 py-1 pr-3">{title}</th>
          <th className="w-40 pr-3 font-semibold">how they stand</th>
          {shown.map(([name, words]) => (
            <th key={name} className="w-24 px-1.5 text-right font-semibold">
              {words}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => {
          const there = at?.(row.name);
          return (
            <tr key={row.name} className="border-b border-line/60">
              <td className="whitespace-nowrap py-1 pr-3 font-medium">
                {there ? (
                  <Link to={there} className="hover:underline">
                    {row.name}
                  </Link>
                ) : (
                  row.name || <span className="text-faint">(none)</span>
                )}
              </td>
              <td className="pr-3">
                <Bar counts={row} />
              </td>
              {shown.map(([name]) => (
                <td
                  key={name}
                  className={`px-1.5 text-right ${name === "fail" && row.fail ? "text-fail" : row[name] ? "" : "text-faint"}`}
                >
                  {row[name]}
                </td>
              ))}
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

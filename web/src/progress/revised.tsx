import { useState } from "react";
import { Link } from "react-router";
import { useRevised } from "../api/team";
import type { Revised, Status } from "../api/types";
import { StatusMark, share } from "../parts/status";
import { toConnection } from "../paths";
import { plain, sentence } from "../words";

type What = Revised["items"][number]["what"];

const WHAT: [What, string][] = [
  ["fails", "fail now"],
  ["still fails", "still fail"],
  ["stale", "stale, to be run"],
  ["unchecked", "unchecked"],
  ["new", "new"],
  ["gone", "gone"],
  ["resized", "pass, sized otherwise"],
  ["passes now", "pass now"],
  ["unassigned", "unassigned"],
  ["elsewhere", "elsewhere"],
  ["stands", "pass as they stood"],
];
const MOST = 300;

/** What the newest revision of the model left standing. */
export function RevisedPart({ job }: { job: string }) {
  const { data } = useRevised(job);
  const [chosen, setChosen] = useState<What | "">("");
  if (!data) return null;
  if (data.before === null)
    return (
      <p className="text-faint">
        R{data.revision} is the first revision with results: there is nothing to compare yet.
      </p>
    );
  const first = WHAT.find(([name]) => data.counts[name])?.[0] ?? "stands";
  const what = chosen || first;
  const items = data.items.filter((item) => item.what === what);
  return (
    <>
      <p className="mb-2 text-faint">
        R{data.revision} beside how each connection stood in R{data.before}. Nothing is designed anew by a revision:
        what is stale waits for a run.
      </p>
      <div className="mb-2 flex flex-wrap gap-2">
        {WHAT.filter(([name]) => data.counts[name]).map(([name, words]) => (
          <button
            key={name}
            type="button"
            aria-pressed={what === name}
            onClick={() => setChosen(name)}
            className={`rounded-full border px-2.5 py-0.5 ${what === name ? "border-current bg-white font-semibold" : "border-line text-faint"}`}
          >
            {data.counts[name]} {words}
          </button>
        ))}
      </div>
      <table className="w-full" aria-label="Connections after the revision">
        <thead className="text-left text-xs text-faint">
          <tr className="border-b border-line">
            <th className="py-1 pr-2">Connection</th>
            <th className="pr-2">Place</th>
            <th className="pr-2">Framing</th>
            <th className="pr-2">In R{data.before}</th>
            <th>Now</th>
          </tr>
        </thead>
        <tbody>
          {items.slice(0, MOST).map((item) => (
            <tr key={`${item.what} ${item.connection}`} className="border-b border-line/60 align-top">
              <td className="py-1 pr-2 font-semibold">
                {item.now ? (
                  <Link to={toConnection(job, item.connection, "progress")} className="hover:underline">
                    {item.connection}
                  </Link>
                ) : (
                  item.connection
                )}
              </td>
              <td className="pr-2">{item.place}</td>
              <td className="pr-2">{plain(item.framing)}</td>
              <td className="pr-2">
                <Stood side={item.before} />
              </td>
              <td>
                <Stood side={item.now} />
                {item.reason && <div className="text-xs text-faint">{sentence(item.reason)}</div>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {items.length > MOST && (
        <p className="mt-2 text-faint">{items.length - MOST} more: the command “handrail revised” lists all.</p>
      )}
    </>
  );
}

function Stood({ side }: { side: Revised["items"][number]["now"] }) {
  if (!side) return <span className="text-faint">–</span>;
  return (
    <>
      <StatusMark status={side.status as Status} /> {side.utilisation > 0 && share(side.utilisation)}{" "}
      <span className="text-faint">{side.section}</span>
      <div className="text-xs text-faint">{side.summary}</div>
    </>
  );
}

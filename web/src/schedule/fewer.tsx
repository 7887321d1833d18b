import { Link } from "react-router";
import { useFewer } from "../api/rules";
import type { Consolidation } from "../api/types";
import { Refusal } from "../parts/dialog";
import { PutForward } from "../parts/put-forward";
import { Scroll } from "../parts/scroll";
import { share } from "../parts/status";
import { toConnection } from "../paths";
import { WEIGHT } from "../words";
import { Curve } from "./curve";

type Merge = Consolidation["merges"][number];

/** Merges of marks that keep every check passing, the cheapest first, and what they come to. */
export function Fewer({ job, role }: { job: string; role: string }) {
  const { data, error } = useFewer(job, true);
  if (error) return <Refusal error={error} />;
  if (!data) return <p className="mt-3 text-faint">Trying the sizes of each mark on the connections of others …</p>;
  const { unit, scale } = WEIGHT[data.system];
  const sums = summed(data, scale);
  const signed = (n: number) => `${n > 0 ? "+" : ""}${Math.round(n).toLocaleString("en-US")}`;
  return (
    <div className="flex h-full flex-col">
      <p className="mb-2 mt-1 text-faint">
        {data.marks} marks of {data.connections} connections. Each merge below gives the connections of one mark the
        sizes of another, on top of those before; every one of them passes then, under the job’s target.{" "}
        {data.shared > 0 && `${data.shared} share their bolts with the connection opposite and stay as they are.`}
      </p>
      <Curve points={sums} unit={unit} />
      <Scroll label="Merges" className="mt-2 min-h-0 flex-1">
        <table className="w-full text-xs" aria-label="Merges">
          <thead className="sticky top-0 bg-paper text-left text-faint">
            <tr className="border-b border-line">
              {["Merge", "Marks left", "Mark", "Its sizes", "Becomes", "Sizes", "Connections", "Worst then"].map(
                (name) => (
                  <th key={name} className="py-1 pr-3">
                    {name}
                  </th>
                ),
              )}
              {["Bolts", unit, "Bolts in all", `${unit} in all`].map((name) => (
                <th key={name} className="py-1 pl-2 text-right">
                  {name}
                </th>
              ))}
              <th>
                <span className="sr-only">what to do</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {data.merges.map((merge, k) => (
              <tr key={merge.number} className="border-b border-line/60 align-top">
                <td className="py-1 pr-2 text-faint">{merge.number}</td>
                <td className="pr-3">{merge.marks}</td>
                <td className="pr-3 font-semibold">{merge.given}</td>
                <td className="pr-3">{merge.given_summary}</td>
                <td className="pr-3 font-semibold">{merge.taken}</td>
                <td className="pr-3">{merge.taken_summary}</td>
                <td className="pr-3">
                  {merge.connections.length} ×{" "}
                  <Link className="hover:underline" to={toConnection(job, merge.connections[0])}>
                    {merge.connections[0]}
                  </Link>
                </td>
                <td className="pr-3">{share(merge.worst)}</td>
                <td className="pl-2 text-right">{signed(merge.bolts)}</td>
                <td className="pl-2 text-right">{signed(merge.steel * scale)}</td>
                <td className="pl-2 text-right">{signed(sums[k + 1].bolts)}</td>
                <td className="pl-2 text-right">{signed(sums[k + 1].steel)}</td>
                <td className="pl-3">{role !== "viewer" && <MergeMarks job={job} merge={merge} />}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {!data.merges.length && <p className="mt-2">No mark can take the connections of another.</p>}
      </Scroll>
    </div>
  );
}

function summed(data: Consolidation, scale: number) {
  const found = [{ marks: data.marks, bolts: 0, steel: 0 }];
  for (const merge of data.merges) {
    const last = found[found.length - 1];
    found.push({ marks: merge.marks, bolts: last.bolts + merge.bolts, steel: last.steel + merge.steel * scale });
  }
  return found;
}

const MergeMarks = ({ job, merge }: { job: string; merge: Merge }) => (
  <PutForward
    job={job}
    connections={merge.connections}
    changes={merge.changes as Record<string, string>}
    trigger="merge"
    title={`${merge.given} becomes ${merge.taken}`}
    words={`${merge.connections.length} connections get ${merge.taken_summary}; worked out again for each, and kept as overrides that await an engineer’s word.`}
    act="Merge"
  />
);

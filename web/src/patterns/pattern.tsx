import { Link } from "react-router";
import { useAddress } from "../address";
import { usePattern } from "../api/queries";
import type { PatternInFull, System } from "../api/types";
import { Choice } from "../parts/choice";
import { Download } from "../parts/download";
import { Trouble, Waiting } from "../parts/empty";
import { Scroll } from "../parts/scroll";
import { to, toConnection } from "../paths";
import { amount } from "../words";
import { Cloud } from "./cloud";
import { AddJoint, OneJoint } from "./edit";

const NOTHING = 0.2; // kN or kN*m
const unit = (action: number) => (action < 3 ? "kN" : "kN*m");

/** One pattern: its joints, the peaks at each of its places, and every action as a point. */
export function PatternPanel({
  job,
  name,
  system,
  allowed,
}: {
  job: string;
  name: string;
  system: System;
  allowed: boolean;
}) {
  const { data, error, refetch } = usePattern(job, name);
  const [query, set] = useAddress();
  if (error) return <Trouble error={error} retry={refetch} />;
  if (!data) return <Waiting what={name} />;
  const places = data.places.map((p, k) => ({ ...p, k })).filter((p) => p.framing);
  const picked = Number(query.get("place") || (places[0]?.k ?? -1));
  const place = data.places[picked];
  return (
    <Scroll label={name} className="p-5">
      <div className="flex items-baseline gap-3">
        <h2 className="text-base font-semibold">
          {name}: {data.joints} joint{data.joints > 1 ? "s" : ""}
        </h2>
        {allowed && <AddJoint job={job} beside={data.members[0].joint} />}
        <Download
          className="ml-auto text-xs text-brass-dark underline-offset-2 hover:underline"
          href={`/api/v1/jobs/${encodeURIComponent(job)}/patterns/${encodeURIComponent(name)}/workbook`}
        >
          workbook for whoever designs it elsewhere (.xlsx)
        </Download>
      </div>
      <Joints job={job} data={data} allowed={allowed} />
      {place ? (
        <>
          <div className="mt-4 flex items-center gap-3">
            <h3 className="font-semibold">At</h3>
            <Choice
              label="Place"
              value={String(picked)}
              options={places.map((p) => ({
                value: String(p.k),
                words: `${p.words} (${data.members[0].connections[p.k]})`,
              }))}
              onChange={(value) => set("place", value)}
            />
            <span className="text-faint">
              over all joints and strength combinations, as {data.members[0].joint}'s own axes see it
            </span>
          </div>
          <Peaks job={job} data={data} place={picked} system={system} />
          <Cloud key={picked} job={job} name={name} slot={picked} system={system} peaks={place.peaks} />
        </>
      ) : (
        <p className="mt-4 text-faint">Nothing is fastened at these joints.</p>
      )}
    </Scroll>
  );
}

function Joints({ job, data, allowed }: { job: string; data: PatternInFull; allowed: boolean }) {
  return (
    <ul className="mt-2 flex max-h-28 flex-wrap gap-x-3 gap-y-1 overflow-y-auto" aria-label="Joints">
      {data.members.map((m) => (
        <li key={m.joint}>
          <Link
            className="text-brass-dark underline-offset-2 hover:underline"
            title={`turned by ${m.turn.toFixed(0)} degrees${m.mirrored ? ", mirrored" : ""}${m.said && `; ${m.said}`}`}
            to={`${to(job, "model")}?joint=${encodeURIComponent(m.joint)}`}
          >
            {m.joint}
            {m.mirrored && <span title="mirrored">*</span>}
          </Link>
          {m.place && <span className="text-xs text-faint"> {m.place}</span>}
          {allowed && (m.said || data.joints > 1) && <OneJoint job={job} joint={m} />}
        </li>
      ))}
    </ul>
  );
}

function Peaks({ job, data, place, system }: { job: string; data: PatternInFull; place: number; system: System }) {
  const own = (p: (typeof all)[number]) => Math.abs(p.values[data.actions.indexOf(p.action)]);
  const all = data.places[place].peaks;
  const some = new Set(all.filter((p) => own(p) > NOTHING).map((p) => p.action));
  const none = data.actions.filter((a) => !some.has(a));
  return (
    <>
      <table className="mt-2 w-full text-left text-xs">
        <thead className="text-faint">
          <tr>
            {["peak", ...data.actions, "at", "in"].map((name) => (
              <th key={name} className="py-1 pr-3 font-normal">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {all
            .filter((p) => some.has(p.action))
            .map((p) => (
              <tr key={`${p.action}${p.largest}`} className="border-t border-line/60">
                <td className="py-1 pr-3">
                  {p.largest ? "largest" : "smallest"} {p.action}
                </td>
                {p.values.map((value, k) => (
                  <td key={data.actions[k]} className={`pr-3 ${data.actions[k] === p.action ? "font-semibold" : ""}`}>
                    {amount(value, unit(k), system)}
                  </td>
                ))}
                <td className="pr-3">
                  <Link
                    className="text-brass-dark underline-offset-2 hover:underline"
                    to={toConnection(job, p.connection)}
                  >
                    {p.connection}
                  </Link>
                </td>
                <td>{p.combination}</td>
              </tr>
            ))}
        </tbody>
      </table>
      {none.length > 0 && <p className="mt-1 text-faint">Nothing of {none.join(", ")} acts here.</p>}
    </>
  );
}

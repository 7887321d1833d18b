import { Link } from "react-router";
import { useSurvey } from "../api/queries";
import type { Survey } from "../api/types";
import { Trouble, Waiting } from "../parts/empty";
import { to } from "../paths";
import { TON } from "../units";
import { amount, plain } from "../words";

/** Sections with their weight, connections by kind, the largest forces, and what each member end is asked for. */
export function InventoryPanel({ job }: { job: string }) {
  const { data, error, refetch } = useSurvey(job);
  if (error) return <Trouble error={error} retry={refetch} />;
  if (!data) return <Waiting what="the survey" />;
  return (
    <div className="grid grid-cols-2 gap-x-8 gap-y-6">
      <Sections found={data} />
      <div className="space-y-6">
        <Kinds found={data} />
        <Peaks found={data} />
      </div>
      <Demands job={job} found={data} />
    </div>
  );
}

const TH = "py-1 pr-3 font-normal text-faint";
const TD = "py-1 pr-3";

function Sections({ found }: { found: Survey }) {
  const si = found.system === "si";
  const mass = (kg: number) => (si ? kg / 1000 : kg / TON);
  const total = found.sections.reduce((sum, s) => sum + s.mass, 0);
  const instead = new Map(found.rare.map((r) => [r.section, r.instead]));
  return (
    <section aria-label="Sections">
      <h2 className="font-semibold">
        {found.sections.length} sections, {mass(total).toFixed(1)} {si ? "t" : "tons"}
      </h2>
      <table className="mt-1 w-full text-left text-xs">
        <thead>
          <tr>
            {[
              "section",
              "grade",
              "members",
              si ? "length, m" : "length, ft",
              si ? "mass, t" : "mass, ton",
              "of all",
            ].map((name) => (
              <th key={name} className={TH}>
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {found.sections.map((s) => (
            <tr key={s.section} className="border-t border-line/60">
              <td className={`${TD} font-medium`}>{s.section}</td>
              <td className={TD}>{s.grades.join(", ")}</td>
              <td className={TD}>{s.members}</td>
              <td className={TD}>{(si ? s.length / 1000 : s.length / 304.8).toFixed(0)}</td>
              <td className={TD}>{s.family ? mass(s.mass).toFixed(2) : "not known"}</td>
              <td className="w-1/4">
                {instead.has(s.section) ? (
                  <span className="text-unchecked">
                    used so seldom{instead.get(s.section) && `: ${instead.get(s.section)} could stand in`}
                  </span>
                ) : (
                  <span
                    className="block h-1.5 rounded-full bg-brass"
                    style={{ width: `${(100 * s.mass) / Math.max(found.sections[0]?.mass ?? 1, 1)}%` }}
                  />
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Kinds({ found }: { found: Survey }) {
  const most = Math.max(...Object.values(found.framings), 1);
  return (
    <section aria-label="Connections by framing condition">
      <h2 className="font-semibold">
        {Object.values(found.framings).reduce((a, b) => a + b, 0)} connections by framing condition
      </h2>
      <table className="mt-1 w-full text-left text-xs">
        <tbody>
          {Object.entries(found.framings).map(([kind, count]) => (
            <tr key={kind}>
              <td className={`${TD} whitespace-nowrap`}>{plain(kind)}</td>
              <td className={TD}>{count}</td>
              <td className="w-1/2">
                <span className="block h-1.5 rounded-full bg-pass" style={{ width: `${(100 * count) / most}%` }} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Peaks({ found }: { found: Survey }) {
  return (
    <section aria-label="Largest forces">
      <h2 className="font-semibold">Largest within members, strength combinations of {found.method}</h2>
      <table className="mt-1 w-full text-left text-xs">
        <tbody>
          {found.peaks.map((p) => (
            <tr key={`${p.component}${p.largest}`} className="border-t border-line/60">
              <td className={TD}>{p.component}</td>
              <td className={`${TD} font-medium`}>{amount(p.value, p.unit, found.system)}</td>
              <td className={TD}>
                {p.member}.{p.end}
              </td>
              <td className={TD}>{p.combination}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Demands({ job, found }: { job: string; found: Survey }) {
  const most = Math.max(...found.histogram, 1);
  return (
    <section aria-label="Demands" className="col-span-2">
      <h2 className="font-semibold">Member ends by the share of their own section's strength</h2>
      <p className="text-faint">
        The largest of N, V, Vw, Mw and M over what the section yields at, over all combinations
        {found.unknown > 0 && `; ${found.unknown} ends are without forces or a known section`}. What stands beyond 1.0
        was probably not meant.
      </p>
      <div className="mt-3 flex h-28 items-end gap-1" role="img" aria-label="Histogram of demands">
        {found.histogram.map((count, k) => (
          <div key={k} className="flex flex-1 flex-col items-center justify-end text-[11px]">
            <span>{count}</span>
            <span
              className={`w-full rounded-t ${k >= 10 ? "bg-fail" : "bg-brass"}`}
              style={{ height: `${(70 * count) / most}px` }}
            />
            <span className="text-faint">{k === 11 ? "1.1+" : (k / 10).toFixed(1)}</span>
          </div>
        ))}
      </div>
      <table className="mt-3 w-full text-left text-xs">
        <thead>
          <tr>
            {["member end", "section", "share", "of", "in"].map((name) => (
              <th key={name} className={TH}>
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {found.demands.slice(0, 40).map((d) => (
            <tr key={`${d.member}.${d.end}`} className="border-t border-line/60">
              <td className={TD}>
                <Link
                  className="text-brass-dark underline-offset-2 hover:underline"
                  to={`${to(job, "model")}?joint=${encodeURIComponent(d.node)}`}
                >
                  {d.member}.{d.end}
                </Link>
              </td>
              <td className={TD}>{d.section}</td>
              <td className={`${TD} ${d.share > 1 ? "font-semibold text-fail" : ""}`}>{d.share.toFixed(2)}</td>
              <td className={TD}>{d.component}</td>
              <td className={TD}>{d.combination}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

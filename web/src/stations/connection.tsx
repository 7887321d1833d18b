import { Tabs } from "radix-ui";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { useConnection } from "../api/queries";
import type { Check, Connection, Parameter } from "../api/types";
import { SceneView } from "../drawing/scene-view";
import { Trouble, Waiting } from "../parts/empty";
import { ClearDialog, OverrideDialog } from "../parts/override-dialog";
import { StatusMark, Utilisation } from "../parts/status";
import { amount, figure, level, plain, sentence, unitText } from "../words";

/** One connection: drawing, parameters with their sources, checks with their worked lines, overrides. */
export function ConnectionStation() {
  const { job = "", connection = "" } = useParams();
  const { data, error, refetch } = useConnection(job, connection);
  const [part, setPart] = useState("");
  if (error) return <Trouble error={error} retry={refetch} />;
  if (!data) return <Waiting what={connection} />;
  return (
    <div className="flex h-full flex-col">
      <Head job={job} data={data} />
      {data.drawing ? (
        <div className="grid min-h-0 flex-1 grid-cols-[540px_1fr]">
          <section
            className="flex min-h-0 flex-col overflow-y-auto border-r border-line bg-white p-2"
            aria-label="Drawing"
          >
            <SceneView view={data.drawing.views[0]} width={522} height={372} active={part} onPart={setPart} />
            <div className="flex">
              {data.drawing.views[1] && (
                <SceneView view={data.drawing.views[1]} width={262} height={262} active={part} onPart={setPart} />
              )}
              <Peaks data={data} />
            </div>
          </section>
          <Panels job={job} data={data} part={part} setPart={setPart} />
        </div>
      ) : (
        <div className="p-6">
          <p className="text-base font-semibold">No connection is drawn here</p>
          <p className="mt-1 text-faint">{sentence(data.reason)}</p>
          <div className="mt-4 w-80">
            <Peaks data={data} />
          </div>
        </div>
      )}
    </div>
  );
}

function Head({ job, data }: { job: string; data: Connection }) {
  return (
    <header className="border-b border-line bg-sheet px-4 py-2.5">
      <div className="flex items-baseline gap-3">
        <h1 className="text-base font-semibold">{data.connection}</h1>
        <StatusMark status={data.status} />
        {data.utilisation > 0 && <Utilisation value={data.utilisation} wide />}
        {data.check && (
          <span>
            {plain(data.check)} <span className="text-faint">({data.clause}) in</span> {data.action}
          </span>
        )}
        <span className="ml-auto text-faint">
          {data.code} {data.method}
          {data.standard && ` · target ${data.target.toFixed(2)}`}
        </span>
      </div>
      <p className="mt-0.5 text-faint">
        <b className="font-semibold text-ink">{data.section}</b>: {data.words} · joint {data.joint} at level{" "}
        {level(data.elevation, data.system)}
        {data.skew > 0.5 && ` · skew ${data.skew.toFixed(1)}°`}
        {data.slope > 0.5 && ` · slope ${data.slope.toFixed(1)}°`}
        {data.rule && ` · rule “${data.rule}”`}
      </p>
      {data.reason && data.drawing && <p className="mt-0.5 text-fail">{sentence(data.reason)}</p>}
      {data.remedy && <p className="mt-0.5">Remedy: {sentence(data.remedy)}</p>}
      <p className="mt-1 flex flex-wrap gap-x-3 gap-y-0.5">
        <span className="text-faint">Same joint:</span>
        {data.neighbours.map((n) => (
          <Link
            key={n.connection}
            to={`/${job}/connections/${n.connection}`}
            className="underline-offset-2 hover:underline"
          >
            <StatusMark status={n.status} word={false} /> {n.connection} {n.section}
          </Link>
        ))}
        {!data.neighbours.length && <span className="text-faint">nothing else</span>}
      </p>
    </header>
  );
}

function Peaks({ data }: { data: Connection }) {
  return (
    <table className="m-2 h-fit flex-1 text-xs">
      <thead>
        <tr className="text-left text-faint">
          <th className="font-semibold">Actions</th>
          <th className="text-right font-semibold">largest</th>
          <th className="text-right font-semibold">smallest</th>
        </tr>
      </thead>
      <tbody>
        {data.peaks.map((peak) => (
          <tr key={peak.action} className={peak.carried ? "" : "text-faint"}>
            <td className="py-0.5" title={peak.carried ? "" : "not carried by the standard"}>
              {peak.action}
            </td>
            <td className="text-right" title={peak.max_in}>
              {amount(peak.max, peak.unit, data.system)}
            </td>
            <td className="text-right" title={peak.min_in}>
              {amount(peak.min, peak.unit, data.system)}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Panels({
  job,
  data,
  part,
  setPart,
}: {
  job: string;
  data: Connection;
  part: string;
  setPart: (part: string) => void;
}) {
  const broken = data.detailing.filter((rule) => !rule.ok).length;
  const tab =
    "border-b-2 border-transparent px-3 py-2 text-faint data-[state=active]:border-brass-dark data-[state=active]:font-semibold data-[state=active]:text-ink";
  return (
    <Tabs.Root defaultValue="checks" className="flex min-h-0 min-w-0 flex-col bg-sheet">
      <Tabs.List className="flex border-b border-line px-2" aria-label="What to see of the connection">
        <Tabs.Trigger value="checks" className={tab}>
          Checks ({data.checks.length})
        </Tabs.Trigger>
        <Tabs.Trigger value="sizes" className={tab}>
          Sizes
        </Tabs.Trigger>
        <Tabs.Trigger value="detailing" className={tab}>
          Detailing {broken ? <span className="text-fail">✕ {broken}</span> : "✓"}
        </Tabs.Trigger>
        <Tabs.Trigger value="history" className={tab}>
          Overrides ({data.overrides.length})
        </Tabs.Trigger>
      </Tabs.List>
      <Tabs.Content value="checks" className="min-h-0 flex-1 overflow-y-auto">
        {data.checks.map((check) => (
          <CheckRow key={check.check} check={check} active={part === check.part} onPart={setPart} />
        ))}
        {data.notes.map((note) => (
          <p key={note} className="border-t border-line/60 px-4 py-1.5 text-faint">
            Note: {note}
          </p>
        ))}
      </Tabs.Content>
      <Tabs.Content value="sizes" className="min-h-0 flex-1 overflow-y-auto">
        {data.parameters.map((parameter) => (
          <SizeRow key={parameter.name} job={job} data={data} parameter={parameter} active={part === parameter.name} />
        ))}
      </Tabs.Content>
      <Tabs.Content value="detailing" className="min-h-0 flex-1 overflow-y-auto">
        <Detailing data={data} />
      </Tabs.Content>
      <Tabs.Content value="history" className="min-h-0 flex-1 overflow-y-auto p-4">
        <History job={job} data={data} />
      </Tabs.Content>
    </Tabs.Root>
  );
}

function CheckRow({ check, active, onPart }: { check: Check; active: boolean; onPart: (part: string) => void }) {
  const shown = check.shown ?? { demand: check.demand, strength: check.strength, unit: check.unit };
  const over = check.utilisation > 1;
  return (
    <details
      className={`group border-b border-line/60 ${active ? "bg-brass/15" : ""}`}
      onToggle={() => onPart(check.part)}
    >
      <summary className="grid cursor-pointer list-none grid-cols-[12px_minmax(0,1fr)_148px_110px] items-center gap-2 px-3 py-1.5 hover:bg-paper">
        <span className="text-faint group-open:rotate-90">›</span>
        <span className="truncate">
          <span className={over ? "font-semibold text-fail" : "font-medium"}>
            {over && "✕ "}
            {plain(check.check)}
          </span>{" "}
          <span className="text-xs text-faint">{check.clause}</span>
        </span>
        <span className="text-right text-xs">
          {figure(shown.demand)} / {check.shown ? figure(shown.strength) : "–"}{" "}
          <span className="text-faint">{unitText(shown.unit)}</span>
        </span>
        <Utilisation value={check.limit && !over ? 0 : check.utilisation} />
      </summary>
      <div className="bg-white px-8 pb-3 pt-1">
        <p className="mb-1 text-xs text-faint">
          In {check.action}, on the {check.part}
          {check.limit && "; a limit: it counts only when it is passed"}
        </p>
        <ol className="space-y-0.5 font-mono text-[11px] leading-snug">
          {check.lines.map((line, k) => (
            <li key={`${k}${line}`}>{unitText(line)}</li>
          ))}
        </ol>
      </div>
    </details>
  );
}

const SOURCES: Record<string, string> = {
  override: "border-elsewhere text-elsewhere",
  rung: "border-brass-dark text-brass-dark",
  practice: "border-pass text-pass",
};

function SizeRow({
  job,
  data,
  parameter,
  active,
}: {
  job: string;
  data: Connection;
  parameter: Parameter;
  active: boolean;
}) {
  const held = data.overrides.find((o) => o.parameter === parameter.name && ["awaiting", "accepted"].includes(o.state));
  return (
    <div
      className={`grid grid-cols-[minmax(0,1fr)_110px_minmax(0,150px)_72px] items-center gap-2 border-b border-line/60 px-4 py-1 ${active ? "bg-brass/20" : ""}`}
      title={parameter.help}
    >
      <span>{parameter.label}</span>
      <span className="font-medium">{plain(parameter.text)}</span>
      <span className="truncate">
        <span
          className={`rounded border px-1.5 text-xs ${SOURCES[parameter.source.split(" ")[0]] ?? "border-line text-faint"}`}
        >
          {held ? `✎ ${held.author}` : parameter.source}
        </span>
      </span>
      {held ? (
        <ClearDialog job={job} override={held} />
      ) : (
        <OverrideDialog job={job} data={data} parameter={parameter} />
      )}
    </div>
  );
}

function Detailing({ data }: { data: Connection }) {
  return (
    <table className="w-full">
      <thead>
        <tr className="text-left text-xs text-faint">
          {["Rule", "Part", "Given", "Needed", ""].map((name) => (
            <th key={name} className="px-4 py-1.5 font-semibold">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {data.detailing.map((rule) => (
          <tr key={rule.rule} className="border-t border-line/60">
            <td className="px-4 py-1">
              {plain(rule.rule)} <span className="text-xs text-faint">{rule.clause}</span>
            </td>
            <td className="px-4">{rule.part}</td>
            {rule.says ? (
              <td className="px-4" colSpan={2}>
                {rule.says}
              </td>
            ) : (
              <>
                <td className="px-4">
                  {figure(rule.given)} {rule.unit}
                </td>
                <td className="px-4">
                  {rule.sense} {figure(rule.limit)} {rule.unit}
                </td>
              </>
            )}
            <td className={`px-4 font-medium ${rule.ok ? "text-pass" : "text-fail"}`}>
              {rule.ok ? "✓ holds" : "✕ broken"}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function History({ job, data }: { job: string; data: Connection }) {
  if (!data.overrides.length)
    return (
      <p className="text-faint">Nobody has decided anything against the rules here. Change a size under “Sizes”.</p>
    );
  return (
    <ol className="space-y-3">
      {data.overrides.map((o) => (
        <li key={o.id} className="rounded border border-line bg-white p-3">
          <div className="flex items-baseline justify-between">
            <span className="font-semibold">
              {plain(o.parameter)}: {String(o.before.value)} → {o.value}
            </span>
            <span className="text-faint">{o.state}</span>
          </div>
          <p className="mt-1">“{o.reason}”</p>
          <p className="mt-1 flex items-center justify-between text-faint">
            <span>
              {o.author}, {o.made.replace("T", " ").replace("Z", " UTC")} · utilisation{" "}
              {Number(o.before.utilisation).toFixed(2)} → {Number(o.after.utilisation).toFixed(2)}
            </span>
            {["awaiting", "accepted"].includes(o.state) && <ClearDialog job={job} override={o} />}
          </p>
        </li>
      ))}
    </ol>
  );
}

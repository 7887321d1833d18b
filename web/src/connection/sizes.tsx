import { useState } from "react";
import type { Connection, Parameter } from "../api/types";
import { ClearDialog, OverrideDialog } from "../parts/override-dialog";
import { plain } from "../words";

const SOURCES: Record<string, string> = {
  override: "border-elsewhere text-elsewhere",
  rung: "border-brass-dark text-brass-dark",
  practice: "border-pass text-pass",
};

export function SizeRow({
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
  const [changing, setChanging] = useState(false); // what is being typed stays, whatever somebody else decides meanwhile
  const held = data.overrides.find((o) => o.parameter === parameter.name && ["awaiting", "accepted"].includes(o.state));
  return (
    <div
      className={`grid grid-cols-[minmax(0,1fr)_110px_minmax(0,150px)_72px] items-center gap-2 border-b border-line/60 px-4 py-1 ${active ? "bg-brass/20" : ""}`}
      title={parameter.help}
    >
      <span>{parameter.label}</span>
      <span className="font-medium">{plain(parameter.text)}</span>
      <span className="truncate" title={parameter.formula}>
        <span
          className={`rounded border px-1.5 text-xs ${SOURCES[parameter.source.split(" ")[0]] ?? "border-line text-faint"}`}
        >
          {held ? `✎ ${held.author}` : parameter.source}
        </span>
        {parameter.formula && <span className="ml-1 text-xs text-faint">{parameter.formula}</span>}
      </span>
      {held && !changing ? (
        <ClearDialog job={job} override={held} />
      ) : (
        <OverrideDialog job={job} data={data} parameter={parameter} open={changing} setOpen={setChanging} />
      )}
    </div>
  );
}

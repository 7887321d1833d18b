import { useState } from "react";
import { Link } from "react-router";
import { useRunChanges } from "../api/rules";
import type { Run, Status } from "../api/types";
import { toConnection } from "../paths";
import { Frame, Refusal } from "./dialog";
import { StatusMark } from "./status";

const SHOWN = 200;

/** What the last run left otherwise than it was. */
export function RunChanges({ job, run }: { job: string; run: Run }) {
  const [open, setOpen] = useState(false);
  const { data, error } = useRunChanges(job, run.id, open);
  if (!run.changed && !run.shifted) return null;
  return (
    <Frame
      trigger={[run.changed && `${run.changed} changed`, run.shifted && `${run.shifted} moved`]
        .filter(Boolean)
        .join(", ")}
      look="text-[11px] text-brass underline-offset-2 hover:underline"
      title={`What run ${run.id} changed`}
      words={
        data?.kept
          ? Object.entries(data.counts)
              .map(([what, number]) => `${number} ${what}`)
              .join(", ")
          : "Connections that are other steel since, or judged otherwise."
      }
      open={open}
      setOpen={setOpen}
    >
      <Refusal error={error} />
      {data && !data.kept && <p>The run is too old: what it changed is not kept any more.</p>}
      <ul className="text-xs">
        {data?.items.slice(0, SHOWN).map((item) => (
          <li key={item.connection} className="border-b border-line/60 py-0.5">
            <Link to={toConnection(job, item.connection)} className="font-semibold hover:underline">
              {item.connection}
            </Link>{" "}
            <StatusMark status={item.before.status as Status} word={false} /> {item.before.summary || "no sizes"} →{" "}
            <StatusMark status={item.after.status as Status} word={false} /> {item.after.summary || item.after.reason}{" "}
            <span className="text-faint">
              {item.before.utilisation.toFixed(2)} → {item.after.utilisation.toFixed(2)}
            </span>
          </li>
        ))}
      </ul>
      {data && data.items.length > SHOWN && <p className="mt-1 text-faint">and {data.items.length - SHOWN} more</p>}
    </Frame>
  );
}

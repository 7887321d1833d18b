import { useState } from "react";
import { useWhy } from "../api/rules";
import type { Connection } from "../api/types";
import { Frame, Refusal } from "../parts/dialog";
import { Met, Sources } from "../rulebook/why";

/** Why the rulebook came to this: the rules that the connection met, and where each size is from. */
export function Why({ job, data }: { job: string; data: Connection }) {
  const [open, setOpen] = useState(false);
  const { data: why, error } = useWhy(job, data.connection, open);
  return (
    <Frame
      trigger={data.rule ? "why this rule" : "why no rule"}
      title={`${data.connection} and the rulebook`}
      words="The rules that it met in their order, and where each of its sizes comes from."
      open={open}
      setOpen={setOpen}
    >
      <Refusal error={error} />
      {why ? (
        <div className="space-y-4 text-xs">
          <Met why={why} />
          <Sources why={why} />
        </div>
      ) : (
        !error && <p className="text-faint">Reading the rulebook …</p>
      )}
    </Frame>
  );
}

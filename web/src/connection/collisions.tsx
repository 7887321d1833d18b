import { useState } from "react";
import type { Connection, Parameter } from "../api/types";
import { CollisionList } from "../parts/collision-list";
import { ClearDialog, OverrideDialog } from "../parts/override-dialog";

const NAME = "collision";

/** What of it stands in others of its joint; a person may let it, with a reason. */
export function Collisions({ job, data }: { job: string; data: Connection }) {
  const [open, setOpen] = useState(false);
  const held = data.overrides.find((o) => o.parameter === NAME && ["awaiting", "accepted"].includes(o.state));
  if (!data.collisions.length && !held) return null;
  const others = [...new Set(data.collisions.filter((c) => c.fails || c.stands).map((c) => c.other))];
  const parameter = {
    name: NAME,
    label: "Collisions that may stand",
    help: "As deep as they are now, on both sides; deeper, or of other parts, they fail again.",
    kind: "choice",
    choices: others.length > 1 ? ["all", ...others] : others,
    text: "",
    source: "",
    shared_with: [],
  } as unknown as Parameter;
  return (
    <section aria-label="Collisions" className="border-b border-line px-4 py-2">
      <CollisionList of={data.collisions} />
      {held ? (
        <ClearDialog job={job} override={held} />
      ) : (
        others.length > 0 && (
          <OverrideDialog
            job={job}
            data={data}
            parameter={parameter}
            open={open}
            setOpen={setOpen}
            trigger="let them stand …"
            first={parameter.choices[0]}
          />
        )
      )}
    </section>
  );
}

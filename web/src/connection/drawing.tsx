import { type ComponentProps, useState } from "react";
import { useDebounce } from "use-debounce";
import { useJointDrawing, useTrial } from "../api/queries";
import type { Connection } from "../api/types";
import type { Stands, Trial } from "../parts/made-of";
import { Forces } from "./forces";
import { PickedInDrawing } from "./picked";
import { Views } from "./views";

/** A connection as it is drawn, or as it would be with the size that is tried; what is picked stands beside its
 *  section, else its forces. */
export function Drawing({
  job,
  data,
  part,
  setPart,
  over,
  neighbours,
}: { neighbours: boolean; job: string; data: Connection } & Pick<
  ComponentProps<typeof Views>,
  "part" | "setPart" | "over"
>) {
  const [trial, setTrial] = useState<Trial>(null);
  const [tried] = useDebounce(trial, 250);
  const found = useTrial(job, data, trial ? tried : null);
  const pick = (picked: string) => {
    setPart(picked);
    setTrial(null);
  };
  const joint = useJointDrawing(job, data.connection, data.version, neighbours).data;
  const views = (trial && found.data?.drawing?.views) || (neighbours && joint?.views) || data.drawing?.views || [];
  return (
    <Views
      views={views}
      part={trial?.parameter ?? part}
      setPart={pick}
      over={trial ? undefined : over}
      tried={Boolean(trial && found.data?.drawing)}
    >
      {part ? (
        <PickedInDrawing
          job={job}
          data={data}
          part={part}
          trial={trial}
          setTrial={setTrial}
          side={trial ? (found.data?.after as Stands | undefined) : undefined}
          error={found.error}
          waiting={found.isFetching || trial !== tried}
          close={() => pick("")}
        />
      ) : (
        <Forces data={data} />
      )}
    </Views>
  );
}

import { useMemo, useState } from "react";
import { useDebounce } from "use-debounce";
import { useJointSolids } from "../api/queries";
import type { Connection } from "../api/types";
import { refused, Trouble, Waiting } from "../parts/empty";
import type { Trial } from "../parts/made-of";
import { bodiesOf } from "./bodies";
import { Picked } from "./picked";
import { Turned } from "./turned";

/** The whole joint of a connection in 3D: turned, cut, drawn apart, measured; a piece leads to its sizes and checks. */
export function Joint3D({
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
  const [trial, setTrial] = useState<Trial>(null);
  const [tried] = useDebounce(trial, 250);
  const asked = trial ? tried : null;
  const stands = useJointSolids(job, data.connection, data.version, null);
  const found = useJointSolids(job, data.connection, data.version, asked);
  const joint = found.data ?? stands.data;
  const bodies = useMemo(() => (joint ? bodiesOf(joint, data.member) : []), [joint, data.member]);
  if (refused(stands.error, stands.data)) return <Trouble error={stands.error} retry={stands.refetch} />;
  if (!joint) return <Waiting what="the joint" />;
  return (
    <Turned
      joint={joint}
      bodies={bodies}
      part={part}
      setPart={setPart}
      onChoose={() => setTrial(null)}
      beside={(picked) => (
        <Picked
          job={job}
          data={data}
          joint={joint}
          body={picked}
          trial={trial}
          setTrial={setTrial}
          error={found.error}
          waiting={found.isFetching || trial !== tried}
        />
      )}
    />
  );
}

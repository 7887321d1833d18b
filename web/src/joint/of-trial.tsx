import { useMemo } from "react";
import { type Form, type Units, useTrialSolids } from "../api/bench";
import { refused, Trouble, Waiting } from "../parts/empty";
import { bodiesOf } from "./bodies";
import { Turned } from "./turned";

/** A connection with no building in 3D; a piece leads to its sizes and checks, which stand at its sides. */
export function OfTrial({
  form,
  units,
  sound,
  part,
  setPart,
}: {
  form: Form;
  units: Units;
  sound: boolean;
  part: string;
  setPart: (part: string) => void;
}) {
  const found = useTrialSolids(form, units, sound);
  const joint = found.data;
  const bodies = useMemo(() => (joint ? bodiesOf(joint, joint.members[0]?.member ?? "") : []), [joint]);
  if (refused(found.error, joint)) return <Trouble error={found.error} retry={found.refetch} />;
  if (!joint) return <Waiting what="the joint" />;
  return (
    <Turned
      joint={joint}
      bodies={bodies}
      part={part}
      setPart={setPart}
      beside={(picked) => (
        <p className="border-t border-line bg-sheet px-3 py-1.5 text-xs">
          <b>{picked.name}</b> {picked.words}
          {picked.used !== undefined && `, used to ${picked.used.toFixed(2)}`}
          {picked.broken && <span className="text-fail">, a rule of detailing is broken</span>}
        </p>
      )}
    />
  );
}

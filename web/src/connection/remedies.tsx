import { Dialog } from "radix-ui";
import { useState } from "react";
import { useChange } from "../api/changes";
import type { Connection } from "../api/types";
import { BUTTON, Frame, LINK, PRIMARY, Refusal } from "../parts/dialog";
import { NO_REASON, Reason, reasoned } from "../parts/reason";
import { share } from "../parts/status";
import { plain, sentence, WEIGHT } from "../words";

type Remedy = Connection["remedies"][number];

/** What would make it pass, each put forward with one click and a reason; or why nothing does. */
export function Remedies({ job, data, role }: { job: string; data: Connection; role: string }) {
  if (!data.remedy) return null;
  if (!data.remedies.length) return <p className="mt-0.5">Remedy: {sentence(data.remedy)}</p>;
  return (
    <p className="mt-0.5 flex flex-wrap items-baseline gap-x-3">
      <span className="text-faint">{data.remedies.length > 1 ? "Remedies:" : "Remedy:"}</span>
      {data.remedies.map((remedy) => (
        <span key={words(remedy)}>
          {words(remedy)} <span className="text-faint">({told(remedy, data)})</span>
          {role !== "viewer" && <PutForward job={job} data={data} remedy={remedy} />}
        </span>
      ))}
    </p>
  );
}

const words = (remedy: Remedy) =>
  Object.entries(remedy.changes)
    .map(([name, value]) => `${plain(name)} to ${sentence(value)}`)
    .join(" and ");

function told(remedy: Remedy, data: Connection) {
  const { steel, field_bolts, shop_bolts } = remedy.more;
  const { unit, scale } = WEIGHT[data.system];
  const weight = `${((steel ?? 0) * scale).toFixed(data.system === "us" ? 1 : 2)} ${unit}`;
  const bolts = [
    [field_bolts, "field bolt"],
    [shop_bolts, "shop bolt"],
  ]
    .filter(([number]) => number)
    .map(
      ([number, what]) => `${Number(number) > 0 ? "+" : ""}${number} ${what}${Math.abs(Number(number)) > 1 ? "s" : ""}`,
    );
  const over = remedy.over_target ? [`over the target ${data.target.toFixed(2)}`] : [];
  return [
    `then ${share(remedy.utilisation)}`,
    ...(steel ? [`${steel > 0 ? "+" : ""}${weight}`] : []),
    ...bolts,
    ...over,
  ].join(", ");
}

function PutForward({ job, data, remedy }: { job: string; data: Connection; remedy: Remedy }) {
  const [open, setOpen] = useState(false);
  const [why, setWhy] = useState(NO_REASON);
  const [both, setBoth] = useState(false);
  const change = useChange(job, data.connection, data.version);
  const shared = data.parameters
    .find((p) => p.name in remedy.changes && p.shared_with?.length)
    ?.shared_with?.join(" and ");
  return (
    <Frame
      trigger="put forward"
      look={LINK}
      title={`${words(remedy)} on ${data.connection}`}
      words="Worked out again and kept as an override that awaits an engineer’s word."
      open={open}
      setOpen={setOpen}
    >
      {shared && (
        <label className="flex gap-2 rounded bg-white p-3">
          <input type="checkbox" checked={both} onChange={(event) => setBoth(event.target.checked)} className="mt-1" />
          <span>
            The same bolts hold {shared} on the other side. Change it for both; for one alone they cannot differ.
          </span>
        </label>
      )}
      <Reason why={why} setWhy={setWhy} />
      <Refusal error={change.error} />
      <div className="mt-4 flex justify-end gap-2">
        <Dialog.Close className={BUTTON}>Not now</Dialog.Close>
        <button
          type="button"
          className={PRIMARY}
          disabled={!reasoned(why) || change.isPending || (Boolean(shared) && !both)}
          onClick={() => change.mutate({ changes: remedy.changes, ...why, both }, { onSuccess: () => setOpen(false) })}
        >
          Put forward
        </button>
      </div>
    </Frame>
  );
}

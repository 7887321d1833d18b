import { useParts } from "../api/queries";
import type { Connection } from "../api/types";
import { ItsChecks, ItsSizes, type Stands, type Trial, Tried } from "../parts/made-of";
import { plain } from "../words";

/** What is picked in the drawing, a part or a dimension: its checks, and the sizes that it is drawn by, to be tried on
 *  the drawing. */
export function PickedInDrawing({
  job,
  data,
  part,
  trial,
  setTrial,
  side,
  error,
  waiting,
  close,
}: {
  job: string;
  data: Connection;
  part: string;
  trial: Trial;
  setTrial: (trial: Trial) => void;
  side?: Stands;
  error: Error | null;
  waiting: boolean;
  close: () => void;
}) {
  const made = useParts(job, data.connection, data.version).data?.sizes;
  const parameter = data.parameters.find((p) => p.name === part);
  const names = parameter ? [part] : (made?.[part] ?? []);
  const parts = parameter ? Object.keys(made ?? {}).filter((one) => made?.[one].includes(part)) : [part];
  return (
    <section aria-label="What is picked" className="m-1 max-h-52 flex-1 overflow-y-auto rounded bg-paper px-3 py-2">
      <p className="flex justify-between">
        <b>{parameter ? parameter.label : plain(part)}</b>
        <button type="button" className="text-faint" aria-label="Pick nothing" title="pick nothing" onClick={close}>
          ✕
        </button>
      </p>
      {parameter && <p className="text-xs text-faint">{parameter.help}</p>}
      {trial && <Tried side={side} error={error} waiting={waiting} />}
      <ItsSizes job={job} data={data} names={names} trial={trial} setTrial={setTrial} />
      <ItsChecks checks={data.checks.filter((c) => parts.includes(c.part))} />
    </section>
  );
}

import { useState } from "react";
import { useDesignChanges } from "../api/designs";
import { useConnection } from "../api/queries";
import type { WrittenDesign } from "../api/types";
import { Reason } from "../connection/keeping";
import { Frame } from "../parts/dialog";
import { plain } from "../words";

/** Decide one connection of a job for a design: what that changes there, and why. */
export function UseHere({
  job,
  connection,
  design,
  fields,
}: {
  job: string;
  connection: string;
  design: WrittenDesign;
  fields: Record<string, string>;
}) {
  const [open, setOpen] = useState(false);
  const [kept, setKept] = useState(false);
  return kept ? (
    <span className="text-pass">decided</span>
  ) : (
    <Frame
      trigger="use it"
      look="text-brass-dark underline-offset-2 hover:underline"
      title={`Decide ${connection} for ${design.called}`}
      words="It is worked out there with its own forces, and awaits an engineer's word."
      open={open}
      setOpen={setOpen}
    >
      {open && (
        <Decide
          job={job}
          connection={connection}
          design={design}
          fields={fields}
          done={() => {
            setOpen(false);
            setKept(true);
          }}
        />
      )}
    </Frame>
  );
}

function Decide({
  job,
  connection,
  design,
  fields,
  done,
}: {
  job: string;
  connection: string;
  design: WrittenDesign;
  fields: Record<string, string>;
  done: () => void;
}) {
  const { data, error } = useConnection(job, connection);
  const found = useDesignChanges(design, job, connection, fields);
  const why = error ?? found.error;
  if (why) return <p className="text-fail">{why.message}</p>;
  if (!data || !found.data) return <p className="text-faint">Looking what it changes …</p>;
  const changes = Object.fromEntries(Object.entries(found.data.changes).map(([name, value]) => [name, String(value)]));
  return (
    <>
      <p className="mb-2 text-xs">
        {Object.entries(changes)
          .map(([name, value]) => `${plain(name)} ${value}`)
          .join(", ")}
      </p>
      <Reason job={job} data={data} wanted={{ changes }} first={`${found.data.reason}: `} done={done} />
    </>
  );
}

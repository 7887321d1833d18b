import { useState } from "react";
import { sweepConnection } from "../api/changes";
import type { Connection, SweepRow, Sweep as Swept } from "../api/types";
import { Frame } from "../parts/dialog";
import { SweepForm, said } from "../parts/sweep-form";
import { Reason } from "./keeping";

/** Lists of values for its sizes, tried under its own forces; the winner may be kept. */
export function Sweep({ job, data }: { job: string; data: Connection }) {
  return (
    <div className="mt-5 border-t border-line pt-3">
      <SweepForm
        run={(values, order, stop, signal) => sweepConnection(job, data.connection, values, order, stop, signal)}
        keep={(found, winner) => <Kept job={job} data={data} found={found} winner={winner} />}
        system={data.system}
      />
    </div>
  );
}

function Kept({ job, data, found, winner }: { job: string; data: Connection; found: Swept; winner: SweepRow }) {
  const [open, setOpen] = useState(false);
  return (
    <Frame
      trigger="keep it"
      title={`Keep ${said(winner)} for ${data.connection}`}
      words={`At ${winner.utilisation.toFixed(2)} in place of ${data.utilisation.toFixed(2)}. It holds against every run until somebody clears it.`}
      open={open}
      setOpen={setOpen}
    >
      <Reason
        job={job}
        data={data}
        wanted={{ changes: Object.fromEntries(Object.entries(found.changes).map(([n, v]) => [n, String(v)])) }}
        done={() => setOpen(false)}
      />
    </Frame>
  );
}

import { useState } from "react";
import { useOutletContext, useParams } from "react-router";
import { useMe } from "../api/queries";
import { useTransmittal, useTransmittals } from "../api/transmittals";
import type { Job, Transmittal } from "../api/types";
import { Calculations } from "../issue/calculations";
import { Output } from "../issue/output";
import { Changes, Counts } from "../issue/parts";
import { Sending } from "../issue/sending";
import { Download } from "../parts/download";
import { Empty, refused, Trouble, Waiting } from "../parts/empty";
import { Scroll } from "../parts/scroll";

/** What leaves the house: what would now, and all that did, as it was. */
export function IssueStation() {
  const { job = "" } = useParams();
  const info = useOutletContext<Job | undefined>();
  const { data, error, refetch } = useTransmittals(job);
  const { data: me } = useMe();
  const [open, setOpen] = useState(0);
  if (refused(error, data)) return <Trouble error={error} retry={refetch} />;
  if (!data) return <Waiting what="what was sent" />;
  if (info && !info.revision) return <Empty title="Nothing to send yet">Import a model first.</Empty>;
  return (
    <Scroll label="Issue" className="h-full overflow-y-auto px-6 py-4">
      <h1 className="text-base font-semibold">Issue</h1>
      <p className="mb-3 text-faint">
        A transmittal is what leaves the house at one moment: a detail a mark, lists, what changed since each connection
        was last sent. It is never changed; its digest stands in the ledger.
      </p>
      {info && info.role !== "viewer" && <Sending job={job} />}
      {info && <Calculations job={job} admin={me?.admin ?? false} />}
      {info && <Output job={job} />}
      <h2 className="mt-5 font-semibold">What was sent</h2>
      {data.length === 0 && <p className="text-faint">Nothing yet.</p>}
      <ul className="mt-1 space-y-1">
        {data.map((one) => (
          <li key={one.number} className="rounded bg-sheet">
            <One
              job={job}
              one={one}
              open={open === one.number}
              toggle={() => setOpen(open === one.number ? 0 : one.number)}
            />
          </li>
        ))}
      </ul>
    </Scroll>
  );
}

function One({ job, one, open, toggle }: { job: string; one: Transmittal; open: boolean; toggle: () => void }) {
  const sent = one.new + one.changed + one.same;
  return (
    <>
      <div className="grid grid-cols-[60px_1fr_150px_220px_90px] items-baseline gap-3 px-3 py-1.5">
        <button
          type="button"
          className="text-left font-semibold underline-offset-2 hover:underline"
          aria-expanded={open}
          onClick={toggle}
        >
          {one.name}
        </button>
        <span className="truncate" title={`${one.to}: ${one.why}`}>
          {one.to}: {one.why}
        </span>
        <span className="text-xs text-faint">
          {one.made.slice(0, 16).replace("T", " ")}, {one.author}
        </span>
        <span className="text-xs">
          {sent} connections, {one.marks} marks, R{one.revision}
          {one.superseded > 0 && <span className="text-faint">; {one.superseded} superseded</span>}
        </span>
        <Download
          className="text-right text-xs text-brass-dark underline-offset-2 hover:underline"
          href={`/api/v1/jobs/${encodeURIComponent(job)}/transmittals/${one.number}/file`}
        >
          zip
        </Download>
      </div>
      {open && <Opened job={job} number={one.number} />}
    </>
  );
}

function Opened({ job, number }: { job: string; number: number }) {
  const { data, error, refetch } = useTransmittal(job, number);
  if (refused(error, data)) return <Trouble error={error} retry={refetch} />;
  if (!data) return <Waiting what="what it holds" />;
  return (
    <div className="border-t border-line px-3 py-2">
      <Counts of={data} />
      {data.where && <p className="text-faint">of {data.where}</p>}
      {data.anyway && <p className="text-fail">sent anyway: {data.anyway}</p>}
      <p className="text-xs text-faint">
        SHA-256 <code className="break-all">{data.digest}</code>
      </p>
      <Changes of={data} />
    </div>
  );
}

import { useEffect, useRef, useState } from "react";
import { useCancelImport, useImports, useRefresh, useStartImport } from "../api/queries";
import type { Import } from "../api/types";
import { BUTTON, FIELD, Frame, LINK, PRIMARY, Refusal } from "./dialog";

const GOING = ["queued", "running"];

interface Problem {
  file: string;
  row: number | null;
  column: string;
  message: string;
}

/** Send a bundle as a zip, watch it being read, see what is wrong with it or the revision that it became. */
export function ImportDialog({ job, look = LINK }: { job: string; look?: string }) {
  const [open, setOpen] = useState(false);
  const { data } = useImports(job);
  const last = data?.[0];
  const going = Boolean(last && GOING.includes(last.state));
  const refresh = useRefresh(job);
  const was = useRef(false);
  useEffect(() => {
    if (was.current && !going) refresh();
    was.current = going;
  }, [going, refresh]);
  return (
    <Frame
      trigger={going ? "Importing …" : "Import a model"}
      look={look}
      title="Import a model"
      words="A frame bundle in one zip file. It becomes the job's next revision, or, where anything is wrong with it, nothing changes."
      open={open}
      setOpen={setOpen}
    >
      <Sending job={job} going={going} close={() => setOpen(false)} />
      {last && <Outcome job={job} last={last} />}
    </Frame>
  );
}

function Sending({ job, going, close }: { job: string; going: boolean; close: () => void }) {
  const [file, setFile] = useState<File | null>(null);
  const start = useStartImport(job);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (file) start.mutate(file);
      }}
    >
      <label className="block">
        <span className="text-faint">Bundle (.zip)</span>
        <input
          type="file"
          accept=".zip"
          className={FIELD}
          onChange={(event) => setFile(event.target.files?.[0] ?? null)}
        />
      </label>
      <Refusal error={start.error} />
      <div className="mt-4 flex justify-end gap-2">
        <button type="button" className={BUTTON} onClick={close}>
          Close
        </button>
        <button type="submit" className={PRIMARY} disabled={!file || going || start.isPending}>
          {start.isPending ? "Sending …" : "Send"}
        </button>
      </div>
    </form>
  );
}

function Outcome({ job, last }: { job: string; last: Import }) {
  const cancel = useCancelImport(job);
  const problems = last.problems as unknown as Problem[];
  return (
    <section className="mt-4 border-t border-line pt-3" aria-label="Last import" role="status">
      <p className="flex items-center justify-between gap-3">
        <span className="truncate">
          <b>{last.name}</b> <span className="text-faint">sent by {last.author}</span>
        </span>
        {GOING.includes(last.state) && (
          <button type="button" className={BUTTON} onClick={() => cancel.mutate(last.id)}>
            Stop
          </button>
        )}
      </p>
      <p className={`mt-1 ${last.state === "failed" ? "text-fail" : ""}`}>{told(last)}</p>
      {problems.length > 0 && (
        <ul className="mt-2 max-h-56 overflow-y-auto" aria-label="What is wrong">
          {problems.map((p) => (
            <li key={`${p.file}${p.row}${p.column}${p.message}`} className="border-t border-line/60 py-1">
              <span className="text-faint">
                {p.file}
                {p.row ? ` row ${p.row}` : ""}
                {p.column ? `, ${p.column}` : ""}:
              </span>{" "}
              {p.message}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

function told(last: Import): string {
  if (last.state === "queued") return "Waiting for its turn";
  if (last.state === "running") return last.message || "Being read";
  if (last.state === "done") return `Done: revision R${last.revision} stands. Its audit is under Model.`;
  return `${last.state === "failed" ? "Nothing was changed" : last.state}: ${last.message || "no reason was kept"}`;
}

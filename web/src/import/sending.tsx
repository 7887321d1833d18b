import { type DragEvent, useRef, useState } from "react";
import { useStartImport } from "../api/queries";
import { BUTTON, FIELD, Frame, PRIMARY, Refusal } from "../parts/dialog";

const TAKEN =
  ".zip,.xlsx,.xlsm,.xls,.ods,.csv,.txt,.tsv,.dat,.out,.lst,.prn,.asc,.rpt,.log,.toml,.json,.db,.sqlite,.sqlite3,.ifc";

/** Drop a zip, a workbook, a folder or files; or choose them. Nothing is taken in before it was looked at. */
export function Sending({ job }: { job: string }) {
  const start = useStartImport(job);
  const [over, setOver] = useState(false);
  const files = useRef<HTMLInputElement>(null);
  const folder = useRef<HTMLInputElement>(null);
  const send = (chosen: File[]) => chosen.length && start.mutate(chosen);
  const drop = async (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    send(await dropped(event.dataTransfer));
  };
  return (
    <section
      aria-label="Send a model"
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
      className={`rounded-lg border-2 border-dashed p-10 text-center ${over ? "border-brass bg-brass/10" : "border-line bg-sheet"}`}
    >
      <p className="text-base font-semibold">{start.isPending ? "Sending …" : "Drop the model here"}</p>
      <p className="mx-auto mt-1 max-w-xl text-faint">
        A frame bundle (zip or workbook), or the tables that an analysis program exports: a zip, a workbook, a folder or
        loose files. You see what was understood before anything changes.
      </p>
      <div className="mt-4 flex justify-center gap-2">
        <button type="button" className={PRIMARY} disabled={start.isPending} onClick={() => files.current?.click()}>
          Choose files
        </button>
        <button type="button" className={BUTTON} disabled={start.isPending} onClick={() => folder.current?.click()}>
          Choose a folder
        </button>
        <Pasted send={send} />
      </div>
      <input
        ref={files}
        type="file"
        multiple
        accept={TAKEN}
        aria-label="Model files"
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => send([...(event.target.files ?? [])])}
      />
      <input
        ref={folder}
        type="file"
        multiple
        aria-label="Model folder"
        className="sr-only"
        tabIndex={-1}
        {...{ webkitdirectory: "" }}
        onChange={(event) => send([...(event.target.files ?? [])])}
      />
      <Refusal error={start.error} />
    </section>
  );
}

interface Paste {
  name: string;
  text: string;
}

/** Tables copied from a spreadsheet: each pasted under a name, then sent together as text with tabs. */
function Pasted({ send }: { send: (files: File[]) => void }) {
  const [open, setOpen] = useState(false);
  const [tables, setTables] = useState<Paste[]>([{ name: "", text: "" }]);
  const filled = tables.filter((t) => t.text.trim());
  const put = (at: number, change: Partial<Paste>) => {
    const next = tables.map((t, k) => (k === at ? { ...t, ...change } : t));
    setTables(next.every((t) => t.text.trim()) ? [...next, { name: "", text: "" }] : next);
  };
  return (
    <Frame
      trigger="Paste tables"
      look={BUTTON}
      title="Paste tables"
      words="Copy each table in a spreadsheet with the names of its columns, and paste it here."
      open={open}
      setOpen={setOpen}
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          send(filled.map((t, k) => new File([t.text], `${t.name.trim() || `pasted ${k + 1}`}.tsv`)));
          setOpen(false);
        }}
      >
        <div className="max-h-[55vh] space-y-3 overflow-y-auto text-left">
          {tables.map((table, at) => (
            <div key={at}>
              <input
                aria-label={`Name of table ${at + 1}`}
                placeholder="name, like members"
                className={FIELD}
                value={table.name}
                onChange={(event) => put(at, { name: event.target.value })}
              />
              <textarea
                aria-label={`Table ${at + 1}`}
                wrap="off"
                rows={5}
                className={`${FIELD} font-mono text-xs`}
                value={table.text}
                onChange={(event) => put(at, { text: event.target.value })}
              />
            </div>
          ))}
        </div>
        <div className="mt-4 flex justify-end gap-2">
          <button type="button" className={BUTTON} onClick={() => setOpen(false)}>
            Leave it
          </button>
          <button type="submit" className={PRIMARY} disabled={!filled.length}>
            Send {filled.length || ""} table{filled.length === 1 ? "" : "s"}
          </button>
        </div>
      </form>
    </Frame>
  );
}

/** The files of what was dropped, those in folders too. */
async function dropped(data: DataTransfer): Promise<File[]> {
  const entries = [...data.items].map((item) => item.webkitGetAsEntry()).filter((entry) => entry !== null);
  if (!entries.length) return [...data.files];
  return (await Promise.all(entries.map(filesIn))).flat();
}

function filesIn(entry: FileSystemEntry): Promise<File[]> {
  if (entry.isFile)
    return new Promise((done, failed) => (entry as FileSystemFileEntry).file((file) => done([file]), failed));
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const read = (): Promise<FileSystemEntry[]> =>
    new Promise<FileSystemEntry[]>((done, failed) => reader.readEntries(done, failed)).then(async (found) =>
      found.length ? [...found, ...(await read())] : found,
    );
  return read().then(async (found) => (await Promise.all(found.map(filesIn))).flat());
}

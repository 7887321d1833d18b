import { Dialog } from "radix-ui";
import { type FormEvent, useState } from "react";
import { usePutGroup, useStartRun } from "../api/queries";
import { useLabel, useRelease } from "../api/team";
import type { Row } from "../api/types";
import { BUTTON, FIELD, Frame, PRIMARY, Refusal } from "../parts/dialog";
import { share } from "../parts/status";
import { plain } from "../words";
import { DecideDialog } from "./decide";

interface Props {
  job: string;
  rows: Row[];
  role: string;
  clear: () => void;
}

/** What can be done with the connections that are picked. */
export function Acts({ job, rows, role, clear }: Props) {
  const keys = rows.map((row) => row.connection);
  const start = useStartRun(job);
  const run = (verify: boolean) => start.mutate({ verify, where: `connection=${keys.join("|")}` });
  const worst = Math.max(...rows.map((row) => row.utilisation));
  return (
    <section
      className="flex flex-wrap items-center gap-2 border-t border-line bg-sheet px-4 py-2"
      aria-label="Selected connections"
    >
      <b>{rows.length} selected</b>
      <span className="text-faint">
        {common(rows, (r) => r.section)} · {common(rows, (r) => plain(r.standard))} · worst {share(worst)}
      </span>
      <span className="ml-auto flex flex-wrap items-center gap-2">
        {start.error && <span className="text-fail">{start.error.message}</span>}
        {role !== "viewer" && (
          <>
            <DecideDialog job={job} rows={rows} done={() => undefined} />
            <GroupDialog job={job} keys={keys} />
            <LabelDialog job={job} rows={rows} />
            <button type="button" className={BUTTON} disabled={start.isPending} onClick={() => run(true)}>
              Verify
            </button>
            <button type="button" className={BUTTON} disabled={start.isPending} onClick={() => run(false)}>
              Size
            </button>
          </>
        )}
        {(role === "engineer" || role === "admin") && <ReleaseDialog job={job} rows={rows} />}
        <button type="button" className="text-faint hover:underline" onClick={clear}>
          clear
        </button>
      </span>
    </section>
  );
}

/** What they have in common, or how many there are. */
function common(rows: Row[], of: (row: Row) => string): string {
  const found = [...new Set(rows.map(of))];
  return found.length === 1 ? found[0] || "–" : `${found.length} different`;
}

function GroupDialog({ job, keys }: { job: string; keys: string[] }) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  const put = usePutGroup(job);
  const keep = (event: FormEvent) => {
    event.preventDefault();
    put.mutate({ name: name.trim(), connections: keys, how: "add" }, { onSuccess: () => setOpen(false) });
  };
  return (
    <Frame
      trigger="Group …"
      look={BUTTON}
      title={`Put ${keys.length} into a group`}
      words="A new name makes a group; the name of one that there is adds to it."
      open={open}
      setOpen={setOpen}
    >
      <form onSubmit={keep}>
        <input
          value={name}
          onChange={(event) => setName(event.target.value)}
          className={FIELD}
          aria-label="Name of the group"
          placeholder="stair core"
        />
        <Refusal error={put.error} />
        <div className="mt-4 flex justify-end gap-2">
          <Dialog.Close className={BUTTON}>Not now</Dialog.Close>
          <button type="submit" className={PRIMARY} disabled={!name.trim() || put.isPending}>
            Group them
          </button>
        </div>
      </form>
    </Frame>
  );
}

function LabelDialog({ job, rows }: { job: string; rows: Row[] }) {
  const [open, setOpen] = useState(false);
  const label = useLabel(job);
  const tags = [...new Set(rows.flatMap((row) => row.tags))];
  const [said, setSaid] = useState({ add: "", remove: new Set<string>(), person: "", sequence: "" });
  const keep = (event: FormEvent) => {
    event.preventDefault();
    const words = { person: said.person.trim() || null, sequence: said.sequence.trim() || null };
    const add = said.add
      .split(",")
      .map((tag) => tag.trim())
      .filter(Boolean);
    label.mutate(
      { connections: rows.map((row) => row.connection), add, remove: [...said.remove], ...words },
      { onSuccess: () => setOpen(false) },
    );
  };
  return (
    <Frame
      trigger="Tag, assign …"
      look={BUTTON}
      title={`Tag or assign ${rows.length}`}
      words="What is left empty stays as it is on each."
      open={open}
      setOpen={setOpen}
    >
      <form onSubmit={keep} className="space-y-2">
        {(
          [
            ["add", "Tags to add, between commas"],
            ["person", "Who works on them"],
            ["sequence", "Erection sequence"],
          ] as const
        ).map(([name, words]) => (
          <label key={name} className="block">
            <span className="text-faint">{words}</span>
            <input
              value={said[name]}
              onChange={(event) => setSaid({ ...said, [name]: event.target.value })}
              className={FIELD}
            />
          </label>
        ))}
        {tags.map((tag) => (
          <label key={tag} className="mr-3 inline-flex gap-1.5">
            <input
              type="checkbox"
              onChange={(event) => {
                const remove = new Set(said.remove);
                if (event.target.checked) remove.add(tag);
                else remove.delete(tag);
                setSaid({ ...said, remove });
              }}
            />
            take “{tag}” off
          </label>
        ))}
        <Refusal error={label.error} />
        <div className="flex justify-end gap-2 pt-2">
          <Dialog.Close className={BUTTON}>Not now</Dialog.Close>
          <button type="submit" className={PRIMARY} disabled={label.isPending}>
            Keep
          </button>
        </div>
      </form>
    </Frame>
  );
}

/** An engineer's word that they may be drawn, or that it is withdrawn. */
export function ReleaseDialog({ job, rows, look = BUTTON }: { job: string; rows: Row[]; look?: string }) {
  const [open, setOpen] = useState(false);
  const [word, setWord] = useState("");
  const [skip, setSkip] = useState(false);
  const release = useRelease(job);
  const connections = rows.map((row) => row.connection);
  const withdraw = rows.every((row) => row.released);
  const many = rows.length > 1 ? `${rows.length} connections` : connections[0];
  const go = () => release.mutate({ connections, word, withdraw, skip }, { onSuccess: () => setOpen(false) });
  return (
    <Frame
      trigger={withdraw ? "Withdraw release …" : "Release …"}
      look={look}
      title={withdraw ? `Withdraw the release of ${many}?` : `Release ${many}?`}
      words={
        withdraw
          ? "They may not be drawn until an engineer releases them again. Say why."
          : "Your word that they may be drawn. It falls by itself when what they rest on changes."
      }
      open={open}
      setOpen={setOpen}
    >
      <textarea
        value={word}
        onChange={(event) => setWord(event.target.value)}
        rows={2}
        className={FIELD}
        aria-label="Word"
        placeholder={withdraw ? "why" : "a word, if there is one"}
      />
      {!withdraw && rows.length > 1 && (
        <label className="mt-2 flex gap-2">
          <input type="checkbox" checked={skip} onChange={(event) => setSkip(event.target.checked)} /> Leave out those
          that cannot be released
        </label>
      )}
      <Refusal error={release.error} />
      <div className="mt-4 flex justify-end gap-2">
        <Dialog.Close className={BUTTON}>Not now</Dialog.Close>
        <button
          type="button"
          className={PRIMARY}
          onClick={go}
          disabled={release.isPending || (withdraw && !word.trim())}
        >
          {withdraw ? "Withdraw" : "Release"}
        </button>
      </div>
    </Frame>
  );
}

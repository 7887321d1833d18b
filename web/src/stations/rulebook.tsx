import { Dialog, Tabs } from "radix-ui";
import { useMemo, useState } from "react";
import { useOutletContext, useParams } from "react-router";
import { useDebounce } from "use-debounce";
import { useMe } from "../api/queries";
import {
  editRulebook,
  type Mistake,
  type Text,
  tryRulebook,
  useAdopt,
  useLanguage,
  useRulebook,
  useSaid,
  useTried,
} from "../api/rules";
import type { Job, Tried } from "../api/types";
import { BUTTON, FIELD, Frame, PRIMARY, Refusal } from "../parts/dialog";
import { refused, Trouble, Waiting } from "../parts/empty";
import { Scroll } from "../parts/scroll";
import { DryRun } from "../rulebook/dry-run";
import { Editor } from "../rulebook/editor";
import { House } from "../rulebook/house";
import { OnOne } from "../rulebook/on-one";
import { Practice } from "../rulebook/practice";
import { Revisions } from "../rulebook/revisions";
import { Rules } from "../rulebook/rules";
import { Tables } from "../rulebook/tables";

const EMPTY =
  "rulebook: 1\nrules:\n  - name: Beams to girders\n    when:\n      framing: beam_to_girder\n    use: single_plate\n";
const NOTHING: Text = { text: "", files: {} };
const PAUSE = 500; // ms after the last key
const PARTS = {
  rules: "Rules",
  tables: "Tables",
  practice: "Practice",
  one: "On one",
  revisions: "Revisions",
  house: "House",
};

/** The rulebook: rules in order with how many each takes, the text beside them, and what it would change before it is adopted. */
export default function RulebookStation() {
  const { job = "" } = useParams();
  const info = useOutletContext<Job | undefined>();
  const { data: me } = useMe();
  const { data: kept, error, refetch } = useRulebook(job);
  const { data: language } = useLanguage();
  const [draft, setDraft] = useDraft(job);
  const [line, setLine] = useState<{ at: number } | null>(null);
  const [wrong, setWrong] = useState<Error | null>(null);
  const [compared, setCompared] = useState<{ of: Text; found: Tried } | null>(null);
  const [comparing, setComparing] = useState(false);
  const own = useMemo(() => (kept ? { text: kept.text || EMPTY, files: kept.files } : null), [kept]);
  const given = draft ?? own;
  const settled = useSettled(given);
  const { data: tried, error: notTried } = useTried(job, settled);
  const { data: said } = useSaid(job, settled ?? NOTHING, Boolean(settled && tried && !Array.isArray(tried)));
  if (refused(error, kept)) return <Trouble error={error} retry={refetch} />;
  if (!kept || !given) return <Waiting what="the rulebook" />;
  const engineer = info?.role === "engineer" || info?.role === "admin";
  const allowed = Boolean(info && info.role !== "viewer");
  const changed = draft !== null && !same(draft, own);
  const mistakes: Mistake[] = Array.isArray(tried) ? tried : [];
  const sound = Boolean(tried && !Array.isArray(tried));

  const edit = async (change: Parameters<typeof editRulebook>[2]) => {
    setWrong(null);
    try {
      const { text, files } = await editRulebook(job, given, change);
      setDraft({ text, files });
    } catch (exc) {
      setWrong(exc as Error);
    }
  };
  const compare = async () => {
    setComparing(true);
    setWrong(null);
    try {
      const found = await tryRulebook(job, given, true);
      if (!Array.isArray(found)) setCompared({ of: given, found });
    } catch (exc) {
      setWrong(exc as Error);
    } finally {
      setComparing(false);
    }
  };
  const shown = compared && same(compared.of, given) ? compared.found.compared : null;
  return (
    <div className="flex h-full flex-col px-5 py-3">
      <header className="mb-2 flex items-center gap-3">
        <h1 className="min-w-0 flex-1 truncate text-base font-semibold">
          Rulebook{" "}
          <span className="font-normal text-faint">
            {kept.version ? `revision ${kept.version}${kept.name ? `, ${kept.name}` : ""}` : "none yet"}
            {kept.author ? `, by ${kept.author}` : ""}
            {kept.inherits ? `, on ${kept.inherits}` : ""}
            {changed ? "; changed here, not adopted" : ""}
          </span>
        </h1>
        {changed && (
          <button type="button" className={BUTTON} onClick={() => setDraft(null)}>
            Drop changes
          </button>
        )}
        <button type="button" className={BUTTON} disabled={!sound || comparing || !info?.revision} onClick={compare}>
          {comparing ? "Trying …" : "Dry run"}
        </button>
        {engineer && (
          <Adopt job={job} given={given} seen={kept.version} ready={changed && sound} done={() => setDraft(null)} />
        )}
      </header>
      <Refusal error={wrong ?? notTried} />
      <div className="grid min-h-0 flex-1 grid-cols-[340px_minmax(0,1fr)] gap-4">
        <Tabs.Root defaultValue="rules" className="flex min-h-0 flex-col">
          <Tabs.List className="mb-2 flex gap-3 border-b border-line text-xs" aria-label="Parts of the rulebook">
            {Object.entries(PARTS).map(([name, words]) => (
              <Tabs.Trigger
                key={name}
                value={name}
                className="-mb-px border-b-2 border-transparent py-1 text-faint data-[state=active]:border-brass data-[state=active]:font-semibold data-[state=active]:text-ink"
              >
                {words}
              </Tabs.Trigger>
            ))}
          </Tabs.List>
          <Scroll label="Part of the rulebook" className="min-h-0 flex-1 pr-1">
            <Tabs.Content value="rules">
              {sound ? (
                <Rules
                  tried={tried as Tried}
                  changed={changed}
                  allowed={allowed}
                  go={(at) => setLine({ at })}
                  move={(rule, to) => edit({ move: { rule, to } })}
                />
              ) : (
                <Mistakes mistakes={mistakes} go={(at) => setLine({ at })} />
              )}
              {allowed && sound && (
                <Like make={(connection, sections, free) => edit({ like: { connection, free, sections } })} />
              )}
            </Tabs.Content>
            <Tabs.Content value="tables">
              <Tables
                tables={said?.tables ?? kept.tables}
                allowed={allowed}
                change={(table, row, column, value) => edit({ cell: { table, row, column, value } })}
              />
            </Tabs.Content>
            <Tabs.Content value="practice">
              <Practice lines={said?.practice ?? []} allowed={allowed} back={(name) => edit({ default: name })} />
            </Tabs.Content>
            <Tabs.Content value="one">
              <OnOne job={job} given={given} />
            </Tabs.Content>
            <Tabs.Content value="revisions">
              <Revisions job={job} version={kept.version} allowed={engineer} />
            </Tabs.Content>
            <Tabs.Content value="house">
              <House given={given} sound={sound} writes={engineer} admin={Boolean(me?.admin)} />
            </Tabs.Content>
          </Scroll>
        </Tabs.Root>
        <div className="flex min-h-0 flex-col gap-3">
          <Editor
            text={given.text}
            setText={(text) => setDraft({ text, files: given.files })}
            mistakes={mistakes}
            language={language}
            line={line}
            readOnly={!allowed}
          />
          {shown && <DryRun job={job} found={shown} />}
        </div>
      </div>
    </div>
  );
}

const same = (a: Text | null, b: Text | null) => JSON.stringify(a) === JSON.stringify(b);

/** What is written here and not adopted: it stays in this browser until it is adopted or dropped. */
function useDraft(job: string): [Text | null, (draft: Text | null) => void] {
  const key = `rulebook of ${job}`;
  const [draft, setDraft] = useState<Text | null>(() => {
    try {
      return JSON.parse(localStorage.getItem(key) ?? "null") as Text | null;
    } catch {
      return null;
    }
  });
  const keep = (next: Text | null) => {
    setDraft(next);
    try {
      if (next) localStorage.setItem(key, JSON.stringify(next));
      else localStorage.removeItem(key);
    } catch {
      // full or shut off: it stays on this page
    }
  };
  return [draft, keep];
}

/** What is written, once nobody has typed for a moment. */
function useSettled(given: Text | null): Text | null {
  const [settled] = useDebounce(given, PAUSE, { equalityFn: same });
  return settled ?? given;
}

function Mistakes({ mistakes, go }: { mistakes: Mistake[]; go: (line: number) => void }) {
  if (!mistakes.length) return <p className="text-faint">Reading what is written …</p>;
  return (
    <ol aria-label="Mistakes" className="space-y-1.5 text-xs">
      {mistakes.map((one) => (
        <li key={`${one.line} ${one.column} ${one.message}`}>
          <button type="button" className="text-left hover:underline" onClick={() => go(one.line)}>
            <b className="text-fail">line {one.line}</b> {one.message}
          </button>
        </li>
      ))}
    </ol>
  );
}

function Like({ make }: { make: (connection: string, sections: boolean, free: string[]) => void }) {
  const [name, setName] = useState("");
  const [free, setFree] = useState("");
  const [sections, setSections] = useState(true);
  return (
    <form
      className="mt-4 border-t border-line px-1 pt-2 text-xs"
      onSubmit={(event) => {
        event.preventDefault();
        make(
          name.trim(),
          sections,
          free
            .split(",")
            .map((one) => one.trim())
            .filter(Boolean),
        );
      }}
    >
      <p>A rule from a connection that is liked</p>
      <div className="mt-1 flex gap-2">
        <input
          aria-label="Connection that is liked"
          className="min-w-0 flex-1 rounded border border-line bg-white px-2 py-1"
          placeholder="B12.i"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <button type="submit" className="rounded border border-line px-2" disabled={!name.trim()}>
          Make a rule
        </button>
      </div>
      <label className="mt-1 block">
        Sizes that stay free
        <input
          className="mt-0.5 w-full rounded border border-line bg-white px-2 py-1"
          placeholder="rows, plate_thickness"
          value={free}
          onChange={(event) => setFree(event.target.value)}
        />
      </label>
      <label className="mt-1 block">
        <input type="checkbox" checked={sections} onChange={(event) => setSections(event.target.checked)} /> between the
        same sections only
      </label>
    </form>
  );
}

function Adopt({
  job,
  given,
  seen,
  ready,
  done,
}: {
  job: string;
  given: Text;
  seen: number;
  ready: boolean;
  done: () => void;
}) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  const adopt = useAdopt(job);
  if (!ready)
    return (
      <button type="button" className={PRIMARY} disabled>
        Adopt …
      </button>
    );
  return (
    <Frame
      trigger="Adopt …"
      look={PRIMARY}
      title={`Adopt as revision ${seen + 1}`}
      words="What rests on something else then is stale until the next run; going back is one step."
      open={open}
      setOpen={setOpen}
    >
      <label>
        What it is called, or is for
        <input className={FIELD} value={name} onChange={(event) => setName(event.target.value)} />
      </label>
      <Refusal error={adopt.error} />
      <div className="mt-4 flex justify-end gap-2">
        <Dialog.Close className={BUTTON}>Not now</Dialog.Close>
        <button
          type="button"
          className={PRIMARY}
          disabled={adopt.isPending}
          onClick={() =>
            adopt.mutate(
              { given, name, seen },
              {
                onSuccess: () => {
                  setOpen(false);
                  done();
                },
              },
            )
          }
        >
          Adopt
        </button>
      </div>
    </Frame>
  );
}

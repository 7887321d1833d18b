import { Redo2, Undo2 } from "lucide-react";
import { lazy, Suspense, useEffect, useMemo, useReducer, useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { useDebounce } from "use-debounce";
import { useAddress } from "../address";
import { type Form, type Units, useAsTrial, useDrawn, useTried } from "../api/bench";
import { useChange, useStandards } from "../api/changes";
import type { BenchSize, OfConnection } from "../api/types";
import { Acting } from "../bench/acting";
import { twice } from "../bench/actions";
import { complete, FIRST, mapping, packed, short, unpacked } from "../bench/form";
import { Sizes } from "../bench/sizes";
import { Verdict } from "../bench/verdict";
import { Where } from "../bench/where";
import { Views } from "../connection/views";
import { Choice } from "../parts/choice";
import { BUTTON, FIELD, Frame, PRIMARY, Refusal } from "../parts/dialog";
import { useFile } from "../parts/download";
import { Empty, Waiting } from "../parts/empty";
import { KeepDesign } from "../parts/keep-design";
import { to } from "../paths";
import { SYSTEMS } from "../units";

const OfTrial = lazy(() => import("../joint/of-trial").then((m) => ({ default: m.OfTrial })));
const SOON = 15; // ms that nothing is typed before it is tried

interface Past {
  before: Form[];
  now: Form;
  after: Form[];
}
type Step = { to: Form } | "back" | "forward";

/** What was done, and what was taken back. */
function stepped(past: Past, step: Step): Past {
  if (step === "back") {
    const last = past.before.at(-1);
    return last ? { before: past.before.slice(0, -1), now: last, after: [past.now, ...past.after] } : past;
  }
  if (step === "forward") {
    const [next, ...rest] = past.after;
    return next ? { before: [...past.before, past.now], now: next, after: rest } : past;
  }
  return { before: [...past.before.slice(-200), past.now], now: step.to, after: [] };
}

/** One connection with no building: what it is at the left, how it looks in the middle, how it stands at the right. */
export default function BenchStation() {
  const [address] = useAddress();
  const [job, connection] = [address.get("job") ?? "", address.get("connection") ?? ""];
  const { data: of, error } = useAsTrial(job, connection);
  const begun = useMemo(() => unpacked(window.location.hash.slice(1)), []);
  if (error) return <Empty title={`${connection} cannot be tried here`}>{error.message}</Empty>;
  if (connection && !of) return <Waiting what={connection} />;
  const form = begun ?? (of ? short(of.trial as Form) : FIRST);
  return (
    <Bench
      key={of ? connection : ""}
      first={form}
      units={of?.system ?? "us"}
      job={job}
      connection={connection}
      of={of}
    />
  );
}

function Bench({
  first,
  units: usual,
  job,
  connection,
  of,
}: {
  first: Form;
  units: Units;
  job: string;
  connection: string;
  of?: OfConnection;
}) {
  const [past, step] = useReducer(stepped, { before: [], now: first, after: [] });
  const [units, setUnits] = useState<Units>(usual);
  const [held, setHeld] = useState(
    () => new Set(["bolt", "rod"].filter((name) => name in mapping(first, "parameters"))),
  );
  const [part, setPart] = useState("");
  const [inSpace, setInSpace] = useState(false);
  const [name, setName] = useState(connection || "trial");
  const { data: standards } = useStandards();
  const form = past.now;
  const change = (next: Form) => step({ to: next });
  const standard = standards?.items.find((one) => one.name === form.standard);
  const kinds = useMemo(
    () => Object.fromEntries((standard?.parameters ?? []).map((p) => [p.name, p.kind])),
    [standard],
  );
  const sent = useMemo(() => complete(form, units, kinds), [form, units, kinds]);
  const again = twice(form); // the file has room for one of the two: nothing is made of it
  const now = useMemo(() => ({ form: sent, sound: !again }), [sent, again]);
  const [{ form: soon, sound }] = useDebounce(now, SOON);
  const { data, error, isPlaceholderData } = useTried(soon, units, sound);
  const tried = useLast(data);
  const { data: latest, isPlaceholderData: drawing } = useDrawn(soon, units, sound && !inSpace);
  const drawn = useLast(latest);
  const moved = useMoved(tried?.sizes, isPlaceholderData);
  const [get, why] = useFile();
  useEffect(() => {
    window.history.replaceState(window.history.state, "", `#${packed(form)}`);
  }, [form]);
  useEffect(() => {
    const key = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.altKey) return;
      const letter = event.key.toLowerCase();
      if (letter !== "z" && letter !== "y") return;
      event.preventDefault();
      step(letter === "y" || event.shiftKey ? "forward" : "back");
    };
    window.addEventListener("keydown", key);
    return () => window.removeEventListener("keydown", key);
  }, []);
  const parameters = (of: Record<string, unknown>) => change({ ...form, parameters: of });
  const flip = (size: string) =>
    setHeld(new Set(held.has(size) ? [...held].filter((one) => one !== size) : [...held, size]));
  const file = (kind: string) =>
    get(`/api/v1/trial/files/${kind}`, {
      ...sent,
      units,
      name: name.trim() || "trial",
      address: window.location.href.length < 6000 ? window.location.href : "",
    });
  return (
    <main className="flex h-full flex-col">
      <header className="flex items-center gap-2 bg-rail px-4 py-2 text-white">
        <Link to="/" className="whitespace-nowrap text-sm font-semibold tracking-wide text-brass">
          Hand Rail
        </Link>
        <h1 className="mr-2 font-semibold">Bench</h1>
        <input
          aria-label="Name"
          className="w-28 rounded border border-white/30 bg-transparent px-2 py-1"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        {connection && (
          <Link
            className="text-xs text-white/75 underline-offset-2 hover:underline"
            to={to(job, "connections", connection)}
          >
            of {job}
          </Link>
        )}
        <span className="ml-auto text-ink">
          <Choice label="Units" value={units} options={SYSTEMS} onChange={(next) => setUnits(next as Units)} />
        </span>
        <Tool name="Take back (Ctrl+Z)" on={past.before.length > 0} act={() => step("back")}>
          <Undo2 size={14} />
        </Tool>
        <Tool name="Do again (Ctrl+Y)" on={past.after.length > 0} act={() => step("forward")}>
          <Redo2 size={14} />
        </Tool>
        <Kept keep={again ? undefined : () => file("yaml")} open={(next) => change(next)} />
        {!again && (
          <KeepDesign
            of={{ trial: sent, units }}
            look="rounded border border-white/40 px-2 py-1 text-xs"
            first={name}
          />
        )}
        {(["page", "pdf", "dxf"] as const).map((kind) => (
          <button
            key={kind}
            type="button"
            className="rounded border border-white/40 px-2 py-1 text-xs disabled:opacity-40"
            disabled={!tried || Boolean(error) || again !== ""}
            onClick={() => file(kind)}
          >
            {kind === "page" ? "Page as PDF" : kind === "pdf" ? "Drawing" : "DXF"}
          </button>
        ))}
        {connection && of && !again && <PutBack job={job} of={of} form={sent} sizes={tried?.sizes ?? []} />}
      </header>
      {why && <p className="bg-sheet px-4 py-1">{why}</p>}
      {of && of.left_out.length > 0 && (
        <p className="bg-brass/15 px-4 py-1 text-xs">
          Otherwise than in the job: {of.left_out.join(", ")}. What it comes to here may differ for that.
        </p>
      )}
      <div className="grid min-h-0 flex-1 grid-cols-[352px_540px_minmax(0,1fr)]">
        <section
          aria-label="What it is"
          className="min-h-0 space-y-4 overflow-y-auto border-r border-line bg-sheet p-3"
        >
          <Where form={form} change={change} />
          <div>
            <h2 className="mb-1 font-semibold">Actions</h2>
            <Acting form={form} change={change} carries={standard?.carries ?? []} units={units} />
          </div>
          <div>
            <h2 className="mb-1 font-semibold">Sizes</h2>
            {tried && (
              <Sizes
                form={form}
                change={change}
                sizes={tried.sizes}
                moved={moved}
                held={held}
                hold={flip}
                part={part}
                setPart={setPart}
              />
            )}
          </div>
        </section>
        <section
          aria-label="Drawing"
          aria-busy={drawing}
          className="relative flex min-h-0 flex-col overflow-y-auto border-r border-line bg-white p-2"
        >
          <p className="flex gap-3 pb-1 text-xs">
            {[false, true].map((space) => (
              <button
                key={String(space)}
                type="button"
                aria-pressed={inSpace === space}
                className={inSpace === space ? "font-semibold" : "text-brass-dark underline-offset-2 hover:underline"}
                onClick={() => setInSpace(space)}
              >
                {space ? "3D" : "Views"}
              </button>
            ))}
          </p>
          {inSpace ? (
            <Suspense fallback={<Waiting what="the joint" />}>
              <OfTrial form={soon} units={units} sound={sound} part={part} setPart={setPart} />
            </Suspense>
          ) : drawn?.drawing ? (
            <Views views={drawn.drawing.views} part={part} setPart={setPart}>
              {null}
            </Views>
          ) : (
            <p className="p-4 text-faint">Nothing to draw yet.</p>
          )}
        </section>
        <section aria-label="How it stands" className="flex min-h-0 flex-col bg-sheet">
          {again && (
            <p className="border-b border-line bg-fail/10 px-3 py-2 text-fail">{again} What is shown is from before.</p>
          )}
          {!again && error && (
            <p role="alert" className="border-b border-line bg-fail/10 px-3 py-2 text-fail">
              {error.message}
              {tried && <span className="block text-xs text-faint">What is shown is from before.</span>}
            </p>
          )}
          {tried && (
            <Verdict
              form={soon}
              change={parameters}
              put={(entries) => change({ ...form, ...entries })}
              tried={tried}
              units={units}
              part={part}
              setPart={setPart}
              held={held}
            />
          )}
        </section>
      </div>
    </main>
  );
}

/** What there was last: what cannot be tried leaves the picture of before. */
function useLast<T>(data: T | undefined) {
  const last = useRef(data);
  if (data !== undefined) last.current = data;
  return data ?? last.current;
}

/** The sizes that are otherwise than at the last look. */
function useMoved(sizes: BenchSize[] | undefined, waiting: boolean) {
  const last = useRef<Record<string, string>>({});
  const [moved, setMoved] = useState(new Set<string>());
  useEffect(() => {
    if (!sizes || waiting) return;
    const now = Object.fromEntries(sizes.map((size) => [size.name, size.text]));
    const before = last.current;
    if (Object.keys(before).length)
      setMoved(new Set(Object.keys(now).filter((name) => name in before && before[name] !== now[name])));
    last.current = now;
  }, [sizes, waiting]);
  return moved;
}

function Tool({ name, on, act, children }: { name: string; on: boolean; act: () => void; children: React.ReactNode }) {
  return (
    <button
      type="button"
      aria-label={name}
      title={name}
      className="rounded border border-white/40 p-1.5 disabled:opacity-40"
      disabled={!on}
      onClick={act}
    >
      {children}
    </button>
  );
}

/** It as a file that `handrail trial` reads, and back. */
function Kept({ keep, open }: { keep?: () => void; open: (form: Form) => void }) {
  const picked = useRef<HTMLInputElement>(null);
  const [why, say] = useState("");
  const read = async (file: File) => {
    say("");
    const response = await fetch("/api/v1/trial/read", {
      method: "POST",
      headers: { "X-Handrail": "1", "Content-Type": "application/json" },
      body: JSON.stringify({ text: await file.text() }),
    }).catch(() => undefined);
    const body = await response?.json();
    if (response?.ok) open(short(body.trial));
    else say(body?.detail ?? "The service does not answer.");
  };
  return (
    <>
      <button
        type="button"
        className="rounded border border-white/40 px-2 py-1 text-xs disabled:opacity-40"
        disabled={!keep}
        onClick={keep}
      >
        Keep as a file
      </button>
      <button
        type="button"
        className="rounded border border-white/40 px-2 py-1 text-xs"
        onClick={() => picked.current?.click()}
      >
        Open a file
      </button>
      <input
        ref={picked}
        type="file"
        aria-label="A trial's file"
        accept=".yaml,.yml,.json"
        className="hidden"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) read(file);
          event.target.value = "";
        }}
      />
      {why && (
        <span role="alert" className="text-xs text-brass">
          {why}
        </span>
      )}
    </>
  );
}

/** What was found here kept in the job, as a decision with its reason. */
function PutBack({ job, of, form, sizes }: { job: string; of: OfConnection; form: Form; sizes: BenchSize[] }) {
  const connection = of.connection;
  const was = short(of.trial as Form);
  const [open, setOpen] = useState(false);
  const [reason, setReason] = useState("");
  const keep = useChange(job, connection, of.version);
  const go = useNavigate();
  const [now, before] = [mapping(form, "parameters"), mapping(was, "parameters")];
  const changes = Object.fromEntries(
    Object.entries(now)
      .filter(([name, value]) => String(before[name] ?? "") !== String(value))
      .map(([name, value]) => [name, String(value)]),
  );
  const gone = Object.keys(before).filter((name) => !(name in now)); // as they follow here, said there
  for (const size of sizes) if (gone.includes(size.name)) changes[size.name] = size.text;
  const other = String(form.standard) !== String(was.standard);
  if (other) changes.standard = String(form.standard);
  const beside = ["supported", "support", "geometry", "foundation", "actions", "cases", "code", "method"].filter(
    (name) => JSON.stringify(form[name] ?? {}) !== JSON.stringify(was[name] ?? {}),
  );
  const words = Object.entries(changes).map(([name, value]) => `${name.replaceAll("_", " ")} ${value}`);
  return (
    <Frame
      trigger="Put it into the job"
      look="rounded bg-brass px-2 py-1 text-xs font-semibold text-ink"
      title={`Decide ${connection} so`}
      words={words.length ? words.join(", ") : "Nothing is otherwise than it stands there."}
      open={open}
      setOpen={setOpen}
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          keep.mutate({ changes, reason }, { onSuccess: () => go(to(job, "connections", connection)) });
        }}
      >
        <label className="block">
          <span className="text-faint">Why</span>
          <input required className={FIELD} value={reason} onChange={(event) => setReason(event.target.value)} />
        </label>
        {beside.length > 0 && (
          <p className="mt-2 text-xs text-fail">
            Otherwise here, and not put into the job: {beside.join(", ")}. Only sizes and the standard are.
          </p>
        )}
        <p className="mt-2 text-xs text-faint">
          It is worked out there with its own forces, and awaits an engineer's word.
        </p>
        <Refusal error={keep.error} />
        <div className="mt-4 flex justify-end gap-2">
          <button type="button" className={BUTTON} onClick={() => setOpen(false)}>
            Leave it
          </button>
          <button type="submit" className={PRIMARY} disabled={!words.length || !reason.trim() || keep.isPending}>
            Keep it
          </button>
        </div>
      </form>
    </Frame>
  );
}

import { ToggleGroup } from "radix-ui";
import { type PointerEvent, useCallback, useMemo, useRef, useState } from "react";
import { useLocation, useOutletContext, useParams } from "react-router";
import { useAddress } from "../address";
import type { Drawn } from "../api/model";
import { connectionsWhere, useAsked, useComparison, useModel, usePatterns } from "../api/queries";
import type { Job } from "../api/types";
import { JointCard, MemberCard } from "../model/cards";
import { COLOURINGS, type Colouring, coloursBy, type Row } from "../model/colours";
import { Find } from "../model/find";
import { elevationOf, type Flat, planOf } from "../model/flat";
import { MOST_TAGS } from "../model/lettering";
import { Picks } from "../model/picks";
import { Sheet } from "../model/sheet";
import { type Projector, Space } from "../model/space";
import { kindsOf, NEAR, type Whole, wholeOf } from "../model/whole";
import { Choice } from "../parts/choice";
import { NoModel, refused, Trouble, Waiting } from "../parts/empty";
import { AuditPanel } from "./audit";

const VIEWS = ["3d", "plan", "elevation"] as const;

/** The building in 3D, floor by floor or line by line; what is picked in it, and what can be done with that. */
export default function ModelStation() {
  const { job = "" } = useParams();
  const info = useOutletContext<Job | undefined>();
  const { data, error, refetch } = useModel(job, info?.revision?.number ?? 0);
  if (info && !info.revision) return <NoModel job={job} />;
  if (refused(error, data)) return <Trouble error={error} retry={refetch} />;
  if (!data) return <Waiting what="the model" />;
  return <Station job={job} info={info} data={data} />;
}

function Station({ job, info, data }: { job: string; info?: Job; data: Drawn }) {
  const [query, set] = useAddress();
  const whole = useMemo(() => wholeOf(data), [data]);
  const view = query.get("view") ?? "3d";
  const undesigned = !data.connections.some((c) => c.utilisation > 0);
  const by = (query.get("by") ?? (undesigned ? "asked" : "status")) as Colouring;
  const [joint, member] = [query.get("joint") ?? "", query.get("member") ?? ""];
  const labels = query.get("labels") ?? (view === "3d" ? "none" : "sections");
  const sent = (useLocation().state as { picked?: string[] } | null)?.picked;
  const [picked, setPicked] = useState<Set<string>>(new Set(sent));
  const [alone, setAlone] = useState<Set<number> | null>(null);
  const [hidden, setHidden] = useState<Set<number>>(new Set());
  const [boxing, setBoxing] = useState(false);
  const [close, setClose] = useState(0);
  const projector = useRef<Projector>(null);
  const number = info?.revision?.number ?? 1;
  const compared = useComparison(job, number - 1, number, by === "change" && number > 1).data;
  const patterns = usePatterns(job, by === "pattern").data;
  const asked = useAsked(job, number, by === "asked").data;
  const colours = useMemo(
    () => coloursBy(by, whole, patterns, compared, asked),
    [by, whole, patterns, compared, asked],
  );
  const floor = floorOf(whole, query.get("level"), view);
  const grid = query.get("grid") ?? whole.grids[0] ?? "";
  const visible = useCallback((k: number) => !hidden.has(k) && (alone === null || alone.has(k)), [hidden, alone]);
  const flat = useMemo(
    () => (view === "plan" && floor ? planOf(whole, floor) : view === "elevation" ? elevationOf(whole, grid) : null),
    [view, whole, floor, grid],
  );
  const members = useMemo(() => {
    const { nodes, members: all } = whole.model;
    const near = (k: number) => !floor || [all[k].i, all[k].j].some((n) => Math.abs(nodes[n].xyz[2] - floor.z) <= NEAR);
    return all.flatMap((_, k) => (visible(k) && near(k) ? [k] : []));
  }, [whole, visible, floor]);
  const connections = useMemo(
    () => shownConnections(whole, visible, flat, view === "3d" ? (floor?.z ?? null) : null),
    [whole, visible, flat, view, floor],
  );
  const pick = (keys: readonly string[]) => data.named && setPicked(new Set(keys)); // else in a moment
  const toJoint = (name: string) => {
    if (!data.named) return;
    set("member", "");
    set("joint", name);
    const z = data.nodes[whole.node.get(name) ?? -1]?.xyz[2];
    const own = z === undefined ? undefined : [...whole.floors].reverse().find((f) => z >= f.z - NEAR);
    if (view === "plan" && own && own !== floor) set("level", String(own.z));
  };
  const toMember = (name: string) => {
    if (!data.named) return;
    set("joint", "");
    set("member", name);
  };
  const withMembers = () => {
    const own = new Set<number>();
    for (const c of data.connections)
      if (picked.has(c.connection)) for (const k of whole.meeting[whole.node.get(c.joint) ?? 0]) own.add(k);
    return own;
  };
  const common = { whole, colours, connections, joint, member, picked, onJoint: toJoint, onMember: toMember };
  return (
    <div className="relative h-full" data-joints={connections.length}>
      <h1 className="sr-only">Model of {data.title}</h1>
      {flat ? (
        <Sheet
          {...common}
          flat={flat}
          title={view === "plan" ? `Plan of ${floor?.name}` : `Elevation of grid line ${grid}`}
          visible={visible}
          labels={labels}
          boxing={boxing}
          onBox={(keys) => {
            pick(keys);
            setBoxing(false);
          }}
        />
      ) : (
        <Space
          job={data.named ? job : ""}
          {...common}
          members={members}
          labels={labels}
          close={close}
          projector={projector}
        />
      )}
      {boxing && !flat && (
        <BoxOver
          onBox={(...box) => {
            pick(projector.current?.inside(...box) ?? []);
            setBoxing(false);
          }}
        />
      )}
      <div className="absolute left-4 right-4 top-3 flex flex-wrap items-center gap-2">
        <Toggle label="View" value={view} values={VIEWS} onChange={(v) => set("view", v === "3d" ? "" : v)} />
        {view === "elevation" ? (
          <Choice
            label="Grid line"
            value={grid}
            options={whole.grids.map((g) => ({ value: g, words: `line ${g}` }))}
            onChange={(value) => set("grid", value)}
          />
        ) : (
          <Choice
            label="Level"
            value={floor ? String(floor.z) : ""}
            options={[
              ...(view === "3d" ? [{ value: "", words: "every level" }] : []),
              ...whole.floors.map((f) => ({ value: String(f.z), words: f.name })),
            ]}
            onChange={(value) => set("level", value)}
          />
        )}
        <Choice
          label="Colour by"
          value={by}
          options={COLOURINGS.filter((c) => c !== "change" || number > 1).map((c) => ({
            value: c,
            words: c === "asked" ? "by what is asked of a section" : `by ${c}`,
          }))}
          onChange={(value) => set("by", value === (undesigned ? "asked" : "status") ? "" : value)}
        />
        {(flat || members.length <= MOST_TAGS) && (
          <Choice
            label="Labels"
            value={labels}
            options={["sections", "members", "joints", ...(flat ? ["used"] : []), "none"].map((v) => ({
              value: v,
              words: v === "used" ? "label utilisation" : `label ${v}`,
            }))}
            onChange={(value) => set("labels", value)}
          />
        )}
        <Find whole={whole} onJoint={toJoint} onMember={toMember} />
        <PickKind whole={whole} onPick={pick} />
        <PickFilter job={job} onPick={pick} />
        <button
          type="button"
          aria-pressed={boxing}
          className="rounded border border-line bg-sheet px-2 py-1 aria-pressed:bg-rail aria-pressed:text-white"
          onClick={() => setBoxing(!boxing)}
        >
          box
        </button>
        {(alone || hidden.size > 0) && (
          <button
            type="button"
            className="rounded border border-brass bg-sheet px-2 py-1"
            onClick={() => {
              setAlone(null);
              setHidden(new Set());
            }}
          >
            show all again
          </button>
        )}
        <AuditPanel job={job} model={data} onPick={toJoint} />
      </div>
      <Legend rows={colours.rows} flat={flat !== null} />
      {view === "elevation" && !whole.grids.length && (
        <p className="absolute inset-x-0 top-1/2 text-center text-faint">
          The model names no grid lines: add the table grids to its bundle.
        </p>
      )}
      {data.named && joint && (
        <JointCard
          job={job}
          joint={joint}
          whole={whole}
          onClose={() => set("joint", "")}
          onMember={toMember}
          onNear={flat ? undefined : () => setClose(close + 1)}
        />
      )}
      {data.named && member && (
        <MemberCard
          member={member}
          whole={whole}
          onClose={() => set("member", "")}
          onJoint={toJoint}
          onNear={flat ? undefined : () => setClose(close + 1)}
        />
      )}
      {picked.size > 0 && (
        <Picks
          job={job}
          keys={[...picked]}
          allowed={Boolean(info && info.role !== "viewer")}
          onOnly={() => setAlone(withMembers())}
          onHide={() => setHidden(new Set([...hidden, ...withMembers()]))}
          onNone={() => setPicked(new Set())}
        />
      )}
      {flat && view === "plan" && data.north !== null && <North degrees={data.north} />}
    </div>
  );
}

/** The floor that is shown: in plan always one, the second from below where none is named. */
function floorOf(whole: Whole, level: string | null, view: string) {
  const named = whole.floors.find((f) => level !== null && Math.abs(f.z - Number(level)) < 1);
  return named ?? (view === "plan" ? (whole.floors[1] ?? whole.floors[0]) : undefined);
}

function shownConnections(whole: Whole, visible: (k: number) => boolean, flat: Flat | null, z: number | null) {
  return whole.model.connections.filter((c) => {
    const node = whole.node.get(c.joint) ?? -1;
    if (!visible(whole.member.get(c.member) ?? -1) || node < 0) return false;
    if (flat) return flat.spot(node) !== null;
    return z === null || Math.abs(whole.model.nodes[node].xyz[2] - z) <= NEAR;
  });
}

function Toggle({
  label,
  value,
  values,
  onChange,
}: {
  label: string;
  value: string;
  values: readonly string[];
  onChange: (value: string) => void;
}) {
  return (
    <ToggleGroup.Root
      type="single"
      value={value}
      onValueChange={(next) => next && onChange(next)}
      aria-label={label}
      className="flex overflow-hidden rounded border border-line bg-sheet"
    >
      {values.map((name) => (
        <ToggleGroup.Item
          key={name}
          value={name}
          className="px-3 py-1 data-[state=on]:bg-rail data-[state=on]:text-white"
        >
          {name === "3d" ? "3D" : name}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}

/** Pick all connections of one kind. */
function PickKind({ whole, onPick }: { whole: Whole; onPick: (keys: string[]) => void }) {
  const kinds = useMemo(() => kindsOf(whole), [whole]);
  return (
    <Choice
      label="Pick all of a kind"
      value=""
      options={[
        { value: "", words: "pick all …" },
        ...kinds.map((k) => ({ value: k.words, words: `${k.words} (${k.keys.length})` })),
      ]}
      onChange={(words) => onPick(kinds.find((k) => k.words === words)?.keys ?? [])}
    />
  );
}

/** Pick all connections that a filter leaves: any field of lists, any fact of the rule language. */
function PickFilter({ job, onPick }: { job: string; onPick: (keys: string[]) => void }) {
  const [error, setError] = useState("");
  const pick = (where: string) => {
    setError("");
    if (where.trim())
      connectionsWhere(job, where).then(
        (keys) => (keys.length ? onPick(keys) : setError("nothing is like that")),
        (refused: Error) => setError(refused.message),
      );
  };
  return (
    <span className="relative">
      <input
        aria-label="Pick by a filter"
        placeholder="pick: V>20 kip"
        className="w-36 rounded border border-line bg-sheet px-2 py-1"
        onChange={() => setError("")}
        onKeyDown={(event) => event.key === "Enter" && pick(event.currentTarget.value)}
      />
      {error && (
        <span
          role="alert"
          className="absolute left-0 top-full z-10 mt-1 w-80 rounded border border-line bg-sheet p-2 text-xs text-fail"
        >
          {error}
        </span>
      )}
    </span>
  );
}

/** A box drawn over the 3D view. */
function BoxOver({ onBox }: { onBox: (x0: number, y0: number, x1: number, y1: number) => void }) {
  const [box, setBox] = useState<[number, number, number, number] | null>(null);
  const at = (event: PointerEvent<HTMLDivElement>) => {
    const own = event.currentTarget.getBoundingClientRect();
    return [event.clientX - own.left, event.clientY - own.top] as const;
  };
  const sorted =
    box &&
    ([Math.min(box[0], box[2]), Math.min(box[1], box[3]), Math.max(box[0], box[2]), Math.max(box[1], box[3])] as const);
  return (
    <div
      className="absolute inset-0 cursor-crosshair"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        setBox([...at(event), ...at(event)]);
      }}
      onPointerMove={(event) => box && setBox([box[0], box[1], ...at(event)])}
      onPointerUp={() => {
        if (sorted) onBox(...sorted);
        setBox(null);
      }}
    >
      {sorted && (
        <div
          className="absolute border border-brass-dark bg-brass/20"
          style={{ left: sorted[0], top: sorted[1], width: sorted[2] - sorted[0], height: sorted[3] - sorted[1] }}
        />
      )}
    </div>
  );
}

function Legend({ rows, flat }: { rows: Row[]; flat: boolean }) {
  const look = flat ? "flex max-w-[calc(100%-8rem)] flex-wrap gap-x-4" : "";
  return (
    <ul
      className={`absolute bottom-4 left-4 rounded-md border border-line bg-sheet/95 px-3 py-2 ${look}`}
      aria-label="Colours"
    >
      {rows.map(({ colour, words, count }) => (
        <li key={words} className="flex items-center gap-2 leading-relaxed">
          <span className="size-2.5 rounded-full" style={{ background: colour }} />
          <span className="flex-1">{words}</span>
          <span className={`text-right text-faint ${flat ? "" : "pl-4"}`}>{count}</span>
        </li>
      ))}
    </ul>
  );
}

/** North, `degrees` to the left of the sheet's upward way. */
function North({ degrees }: { degrees: number }) {
  return (
    <svg
      viewBox="-20 -26 40 46"
      className="absolute bottom-4 right-4 h-16"
      role="img"
      aria-label={`North, ${degrees} degrees to the left of up`}
    >
      <g transform={`rotate(${-degrees})`}>
        <path d="M0 -14 L6 14 L0 9 L-6 14 Z" fill="none" stroke="#58635e" strokeWidth="1.4" />
        <path d="M0 -14 L0 9 L-6 14 Z" fill="#58635e" />
        <text x="0" y="-16" textAnchor="middle" fontSize="9" fontWeight="600" fill="#1e2926">
          N
        </text>
      </g>
    </svg>
  );
}

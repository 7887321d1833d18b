import { ToggleGroup } from "radix-ui";
import { useMemo } from "react";
import { Link, useLocation, useOutletContext, useParams } from "react-router";
import { useAddress } from "../address";
import { useComparison, useModel } from "../api/queries";
import type { Job, Model } from "../api/types";
import { BuildingView, markers } from "../drawing/building";
import { Choice } from "../parts/choice";
import { NoModel, refused, Trouble, Waiting } from "../parts/empty";
import { StatusMark, Utilisation } from "../parts/status";
import { toConnection } from "../paths";
import { level as levelText, ORDER, plain, STATUSES } from "../words";
import { AuditPanel } from "./audit";

type Connection = Model["connections"][number];
type Colouring = "status" | "utilisation" | "framing" | "change";

const CHANGES: Record<string, string> = {
  new: "#23765a",
  gone: "#566570",
  moved: "#7a5c99",
  resized: "#3b6ea8",
  framed: "#b0322a",
  released: "#a04668",
  reloaded: "#d9a441",
};

const FRAMINGS = [
  "#23765a",
  "#3b6ea8",
  "#b5651d",
  "#7a5c99",
  "#8f8f3c",
  "#a04668",
  "#4d8c8c",
  "#94612f",
  "#5a6b3b",
  "#b0322a",
  "#6a7a86",
  "#2f4f6f",
  "#9c7f2e",
];
const HEAT = ["#2e6f95", "#4a9c8c", "#9bb55a", "#d9a441", "#c4622d", "#9b1c1c"];
const STEPS = [0.25, 0.5, 0.7, 0.9, 1.0];

const heat = (value: number) =>
  HEAT[STEPS.findIndex((step) => value <= step) + (value > 1 ? HEAT.length : 0)] ?? HEAT[5];

/** The building in 3D, coloured by status, utilisation or framing condition; a joint picked shows its connections. */
export default function ModelStation() {
  const { job = "" } = useParams();
  const { data, error, refetch } = useModel(job);
  const info = useOutletContext<Job | undefined>();
  const [query, set] = useAddress();
  const by = (query.get("by") ?? "status") as Colouring;
  const joint = query.get("joint") ?? "";
  const only = query.get("level");
  const number = info?.revision?.number ?? 1;
  const compared = useComparison(job, number - 1, number, by === "change" && number > 1).data;
  const changed = useMemo(() => {
    const at = new Map<string, string>();
    for (const kind of Object.keys(CHANGES).reverse())
      for (const change of compared?.changes ?? [])
        if (change.kind === kind) for (const joint of change.joints) at.set(joint, kind);
    return at;
  }, [compared]);
  const framings = useMemo(() => [...new Set(data?.connections.map((c) => c.framing))].sort(), [data]);
  const levels = useMemo(() => levelsOf(data), [data]);
  const found = useMemo(() => {
    if (!data) return [];
    const colour = (c: Connection) =>
      by === "status"
        ? STATUSES[c.status].colour
        : by === "framing"
          ? FRAMINGS[framings.indexOf(c.framing) % FRAMINGS.length]
          : by === "change"
            ? (CHANGES[changed.get(c.joint) ?? ""] ?? "#d5d8d4")
            : c.status === "pass" || c.status === "fail"
              ? heat(c.utilisation)
              : "#b9bfbb";
    const height = new Map(data.nodes.map((n) => [n.node, n.xyz[2]]));
    return markers(data, colour).filter(
      (m) => only === null || Math.abs((height.get(m.joint) ?? 0) - Number(only)) < 50,
    );
  }, [data, by, framings, only, changed]);
  if (info && !info.revision) return <NoModel job={job} />;
  if (refused(error, data)) return <Trouble error={error} retry={refetch} />;
  if (!data) return <Waiting what="the model" />;
  return (
    <div className="relative h-full" data-joints={found.length}>
      <h1 className="sr-only">Model of {data.title}</h1>
      <BuildingView
        model={data}
        found={found}
        picked={joint}
        onPick={(name) => set("joint", name)}
        level={only === null ? null : Number(only)}
      />
      <div className="absolute left-4 top-3 flex items-center gap-3">
        <ToggleGroup.Root
          type="single"
          value={by}
          onValueChange={(value) => value && set("by", value)}
          aria-label="Colour by"
          className="flex overflow-hidden rounded border border-line bg-sheet"
        >
          {(["status", "utilisation", "framing", ...(number > 1 ? ["change" as const] : [])] as const).map((name) => (
            <ToggleGroup.Item
              key={name}
              value={name}
              className="px-3 py-1 data-[state=on]:bg-rail data-[state=on]:text-white"
            >
              {name}
            </ToggleGroup.Item>
          ))}
        </ToggleGroup.Root>
        <Choice
          label="Level"
          value={only ?? ""}
          options={[
            { value: "", words: "every level" },
            ...levels.map((z) => ({ value: String(z), words: `level ${levelText(z, data.system)}` })),
          ]}
          onChange={(value) => set("level", value)}
        />
        <AuditPanel job={job} model={data} onPick={(node) => set("joint", node)} />
      </div>
      <Legend by={by} framings={framings} model={data} changed={changed} />
      {joint && <JointCard job={job} joint={joint} model={data} onClose={() => set("joint", "")} />}
    </div>
  );
}

function levelsOf(model?: Model) {
  const counts = new Map<number, number>();
  for (const n of model?.nodes ?? []) counts.set(Math.round(n.xyz[2]), (counts.get(Math.round(n.xyz[2])) ?? 0) + 1);
  return [...counts.entries()]
    .filter(([, n]) => n >= 3)
    .map(([z]) => z)
    .sort((a, b) => a - b);
}

function Legend({
  by,
  framings,
  model,
  changed,
}: {
  by: Colouring;
  framings: string[];
  model: Model;
  changed: Map<string, string>;
}) {
  const count = (test: (c: Connection) => boolean) => model.connections.filter(test).length;
  const rows: [string, string, string][] =
    by === "status"
      ? ORDER.filter((s) => count((c) => c.status === s)).map((s) => [
          STATUSES[s].colour,
          `${STATUSES[s].mark} ${s}`,
          String(count((c) => c.status === s)),
        ])
      : by === "framing"
        ? framings.map((f, k) => [FRAMINGS[k % FRAMINGS.length], plain(f), String(count((c) => c.framing === f))])
        : by === "change"
          ? [
              ...Object.entries(CHANGES).map(([kind, colour]): [string, string, string] => [
                colour,
                plain(kind),
                String(count((c) => changed.get(c.joint) === kind)),
              ]),
              ["#d5d8d4", "as it was", String(count((c) => !changed.has(c.joint)))],
            ]
          : [...STEPS, Number.POSITIVE_INFINITY].map((step, k) => [
              HEAT[k],
              step === Number.POSITIVE_INFINITY ? "over 1.00" : `to ${step.toFixed(2)}`,
              String(count((c) => c.utilisation > (STEPS[k - 1] ?? 0) && c.utilisation <= step)),
            ]);
  return (
    <ul className="absolute bottom-4 left-4 rounded-md border border-line bg-sheet/95 px-3 py-2">
      {rows.map(([colour, words, n]) => (
        <li key={words} className="flex items-center gap-2 leading-relaxed">
          <span className="size-2.5 rounded-full" style={{ background: colour }} />
          <span className="flex-1">{words}</span>
          <span className="pl-4 text-right text-faint">{n}</span>
        </li>
      ))}
    </ul>
  );
}

function JointCard({ job, joint, model, onClose }: { job: string; joint: string; model: Model; onClose: () => void }) {
  const { search } = useLocation();
  const own = model.connections.filter((c) => c.joint === joint);
  const member = new Map(model.members.map((m) => [m.member, m]));
  const z = model.nodes.find((n) => n.node === joint)?.xyz[2] ?? 0;
  return (
    <aside
      className="absolute right-4 top-3 w-80 rounded-md border border-line bg-sheet p-3 shadow-lg"
      aria-label={`Joint ${joint}`}
    >
      <div className="flex items-baseline justify-between">
        <h2 className="font-semibold">
          Joint {joint} <span className="font-normal text-faint">at level {levelText(z, model.system)}</span>
        </h2>
        <button type="button" aria-label="Close" onClick={onClose} className="px-1 text-faint">
          ✕
        </button>
      </div>
      {own.length === 0 && <p className="mt-2 text-faint">nothing is fastened here</p>}
      <ul className="mt-2 max-h-96 overflow-y-auto">
        {own.map((c) => (
          <li key={c.connection} className="border-t border-line/60">
            <Link to={toConnection(job, c.connection, `model${search}`)} className="block py-1.5 hover:bg-paper">
              <span className="flex items-center justify-between">
                <b>
                  {c.connection} <span className="font-normal">{member.get(c.member)?.section}</span>
                </b>
                {c.utilisation > 0 ? <Utilisation value={c.utilisation} /> : null}
              </span>
              <span className="flex justify-between">
                <span className="text-faint">{plain(c.framing)}</span>
                <StatusMark status={c.status} />
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </aside>
  );
}

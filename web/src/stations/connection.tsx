import { Tabs } from "radix-ui";
import { lazy, type ReactNode, Suspense, useEffect, useState } from "react";
import { Link, useOutletContext, useParams } from "react-router";
import { useAddress } from "../address";
import { useConnection, useFigures } from "../api/queries";
import type { Connection, Job } from "../api/types";
import { Alternatives } from "../connection/alternatives";
import { OverBase } from "../connection/base";
import { Checks } from "../connection/checks";
import { Collisions } from "../connection/collisions";
import { CombinationsPanel, ranked } from "../connection/combinations";
import { Detailing } from "../connection/detailing";
import { Drawing } from "../connection/drawing";
import { Head } from "../connection/head";
import { History } from "../connection/history";
import { MatrixPanel } from "../connection/matrix";
import { SizeRow } from "../connection/sizes";
import { Undrawn } from "../connection/undrawn";
import { BUTTON } from "../parts/dialog";
import { refused, Trouble, Waiting } from "../parts/empty";
import { type FileGroups, Files } from "../parts/files";
import { KeepDesign } from "../parts/keep-design";
import { useKeys } from "../parts/keys";
import { Scroll } from "../parts/scroll";
import { useNamedConnection } from "../paths";

const joint3D = () => import("../joint/joint").then((m) => ({ default: m.Joint3D }));
const Joint3D = lazy(joint3D);
const AHEAD = 1500; // ms after which what draws in 3D is fetched, before anybody asks

const FIGURED = ["base_plate", "beam_web_splice", "beam_flange_splice", "column_flange_splice"];

/** One connection: drawing, parameters with their sources, checks with their worked lines, overrides. */
export function ConnectionStation() {
  const { job = "" } = useParams();
  const connection = useNamedConnection();
  const { data, error, refetch } = useConnection(job, connection);
  const role = useOutletContext<Job | undefined>()?.role ?? "viewer";
  const [part, setPart] = useState("");
  const [chosen, setChosen] = useState({ connection: "", at: 0 }); // of its combinations; the first of another connection
  const [address, setAddress] = useAddress();
  const solid = address.get("view") === "3d";
  const neighbours = address.get("neighbours") === "1"; // drawn dimmed
  const [large, setLarge] = useState(false);
  useEffect(() => {
    const ahead = window.setTimeout(joint3D, AHEAD);
    return () => window.clearTimeout(ahead);
  }, []);
  const figures = useFigures(job, connection, Boolean(data?.drawing) && FIGURED.includes(data?.standard ?? "")).data;
  if (refused(error, data)) return <Trouble error={error} retry={refetch} />;
  if (!data) return <Waiting what={connection} />;
  const at = chosen.connection === connection ? chosen.at : 0;
  const shown = figures?.combinations.length ? Math.min(at, figures.combinations.length - 1) : undefined;
  return (
    <div className="flex h-full flex-col">
      <Head job={job} data={data} role={role} />
      {data.drawing ? (
        <div className={`grid min-h-0 flex-1 ${solid && large ? "grid-cols-1" : "grid-cols-[540px_1fr]"}`}>
          <Drawn
            job={job}
            connection={connection}
            solid={solid}
            setSolid={(on) => setAddress("view", on ? "3d" : "")}
            large={large}
            setLarge={setLarge}
            neighbours={neighbours}
            setNeighbours={(on) => setAddress("neighbours", on ? "1" : "")}
            files={
              <Files
                base={`/api/v1/jobs/${encodeURIComponent(job)}`}
                groups={filesOf(encodeURIComponent(connection), neighbours)}
              />
            }
          >
            {solid ? (
              <Suspense fallback={<Waiting what="the joint" />}>
                <Joint3D key={connection} job={job} data={data} part={part} setPart={setPart} />
              </Suspense>
            ) : (
              <Scroll label="Drawing" className="flex min-h-0 flex-1 flex-col bg-white p-2">
                <Drawing
                  key={connection}
                  job={job}
                  data={data}
                  part={part}
                  setPart={setPart}
                  neighbours={neighbours}
                  over={
                    figures && shown !== undefined
                      ? (place, view) => (
                          <OverBase
                            view={view.title}
                            figures={figures}
                            used={ranked(figures)[shown]}
                            place={place}
                            system={data.system}
                          />
                        )
                      : undefined
                  }
                />
              </Scroll>
            )}
          </Drawn>
          {!(solid && large) && (
            <Panels job={job} data={data} role={role} part={part} setPart={setPart}>
              {figures && shown !== undefined && (
                <CombinationsPanel
                  figures={figures}
                  system={data.system}
                  at={shown}
                  setAt={(at) => setChosen({ connection, at })}
                />
              )}
            </Panels>
          )}
        </div>
      ) : (
        <Undrawn job={job} data={data} role={role} />
      )}
    </div>
  );
}

/** What of a connection, `of` by its address, can be taken away. */
const filesOf = (of: string, neighbours: boolean): FileGroups => [
  [
    "To send to somebody",
    [[`connections/${of}/page.pdf?address=${encodeURIComponent(window.location.origin)}`, "one page as PDF"]],
  ],
  [
    "Drawing",
    ["pdf", "dxf", "svg"].map((kind) => [
      `drawings.${kind}?connection=${of}${neighbours ? "&neighbours=true" : ""}`,
      `drawing as ${kind.toUpperCase()}`,
    ]),
  ],
  ["Calculation", [[`calculations.pdf?connection=${of}`, "calculation as PDF"]]],
  [
    "Solids",
    [
      [`steel-model.ifc?connection=${of}`, "IFC"],
      [`steel-model.dxf?connection=${of}`, "DXF"],
    ],
  ],
];

/** The connection drawn in views, or its joint in 3D; the key 3 goes from one to the other. */
function Drawn({
  job,
  connection,
  solid,
  setSolid,
  large,
  setLarge,
  neighbours,
  setNeighbours,
  files,
  children,
}: {
  job: string;
  connection: string;
  files: ReactNode;
  neighbours: boolean;
  setNeighbours: (on: boolean) => void;
  solid: boolean;
  setSolid: (solid: boolean) => void;
  large: boolean;
  setLarge: (large: boolean) => void;
  children: ReactNode;
}) {
  useKeys({ 3: () => setSolid(!solid) });
  const tab = (on: boolean) =>
    `rounded px-2 py-0.5 text-xs ${on ? "bg-paper font-semibold" : "text-faint hover:bg-paper"}`;
  return (
    <div className="flex min-h-0 min-w-0 flex-col border-r border-line bg-white">
      <div className="flex gap-1 border-b border-line px-2 py-1">
        <button type="button" className={tab(!solid)} aria-pressed={!solid} onClick={() => setSolid(false)}>
          Drawing
        </button>
        <button
          type="button"
          className={tab(solid)}
          aria-pressed={solid}
          onClick={() => setSolid(true)}
          title="The whole joint in 3D (3)"
        >
          Joint in 3D
        </button>
        {solid && (
          <button type="button" className={`${tab(false)} ml-auto`} onClick={() => setLarge(!large)}>
            {large ? "Smaller" : "Larger"}
          </button>
        )}
        {!solid && (
          <button
            type="button"
            className={`${tab(neighbours)} ml-auto`}
            aria-pressed={neighbours}
            onClick={() => setNeighbours(!neighbours)}
            title="What else is at the joint, dimmed"
          >
            Neighbours
          </button>
        )}
        <span className={`text-xs ${solid ? "" : "ml-1"}`}>
          <Link
            aria-label="Try it on the Bench"
            className={`${BUTTON} inline-block whitespace-nowrap px-2`}
            to={`/-/bench?${new URLSearchParams({ job, connection })}`}
          >
            Bench
          </Link>
        </span>
        <span className="ml-1 text-xs">
          <KeepDesign
            of={{ job, connection }}
            look={`${BUTTON} inline-block whitespace-nowrap px-2`}
            first={connection}
          />
        </span>
        <span className="ml-1 text-xs">{files}</span>
      </div>
      {children}
    </div>
  );
}

function Panels({
  job,
  data,
  role,
  part,
  setPart,
  children,
}: {
  job: string;
  data: Connection;
  role: string;
  part: string;
  setPart: (part: string) => void;
  children?: ReactNode;
}) {
  const broken = data.detailing.filter((rule) => !rule.ok).length;
  const tab =
    "whitespace-nowrap border-b-2 border-transparent px-2.5 py-2 text-faint data-[state=active]:border-brass-dark data-[state=active]:font-semibold data-[state=active]:text-ink";
  return (
    <Tabs.Root defaultValue="checks" className="flex min-h-0 min-w-0 flex-col bg-sheet">
      <Tabs.List className="flex border-b border-line px-2" aria-label="What to see of the connection">
        <Tabs.Trigger value="checks" className={tab}>
          Checks
        </Tabs.Trigger>
        <Tabs.Trigger value="matrix" className={tab}>
          Combinations
        </Tabs.Trigger>
        {children && (
          <Tabs.Trigger value="combinations" className={tab}>
            {data.framing === "column_base" ? "Base" : "Forces"}
          </Tabs.Trigger>
        )}
        <Tabs.Trigger value="sizes" className={tab}>
          Sizes
        </Tabs.Trigger>
        <Tabs.Trigger value="alternatives" className={tab}>
          Alternatives
        </Tabs.Trigger>
        <Tabs.Trigger value="detailing" className={tab}>
          Detailing {broken ? <span className="text-fail">✕ {broken}</span> : "✓"}
        </Tabs.Trigger>
        <Tabs.Trigger value="history" className={tab}>
          Decisions {data.overridden ? `(${data.overridden})` : ""}
        </Tabs.Trigger>
      </Tabs.List>
      <Tabs.Content value="checks" className="min-h-0 flex-1 overflow-y-auto">
        <Checks data={data} part={part} setPart={setPart} />
      </Tabs.Content>
      <Tabs.Content value="matrix" className="min-h-0 flex-1">
        <MatrixPanel key={data.connection} job={job} connection={data.connection} />
      </Tabs.Content>
      {children && (
        <Tabs.Content value="combinations" className="min-h-0 flex-1 overflow-y-auto">
          {children}
        </Tabs.Content>
      )}
      <Tabs.Content value="sizes" className="min-h-0 flex-1 overflow-y-auto">
        {data.parameters.map((parameter) => (
          <SizeRow key={parameter.name} job={job} data={data} parameter={parameter} active={part === parameter.name} />
        ))}
      </Tabs.Content>
      <Tabs.Content value="alternatives" className="min-h-0 flex-1 overflow-y-auto p-4">
        <Alternatives key={data.connection} job={job} data={data} />
      </Tabs.Content>
      <Tabs.Content value="detailing" className="min-h-0 flex-1 overflow-y-auto">
        <Collisions job={job} data={data} />
        <Detailing data={data} />
      </Tabs.Content>
      <Tabs.Content value="history" className="min-h-0 flex-1 overflow-y-auto p-4">
        <History job={job} data={data} role={role} />
      </Tabs.Content>
    </Tabs.Root>
  );
}

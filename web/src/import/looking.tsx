import { useEffect, useState } from "react";
import { useCancelImport, useConfirmImport, useSetMap, useUnderstood } from "../api/queries";
import type { Import, Understood } from "../api/types";
import { BUTTON, PRIMARY, Refusal } from "../parts/dialog";
import { Trouble, Waiting } from "../parts/empty";
import { Scroll } from "../parts/scroll";
import { MapEditor } from "./map-editor";
import { type Problem, Problems } from "./problems";
import { UnderstoodTables } from "./understood";

const FROM = {
  given: "",
  sent: "It lay beside the tables.",
  saved: "It is the one that this job's last model came in through.",
  proposed: "It was proposed from the files: go through it, and write what stands as ?.",
  "": "",
};

/** A model that was sent and waits for somebody's word: its map beside what is understood through it. */
export function Looking({ job, held }: { job: string; held: Import }) {
  const { data, error, refetch, isFetching } = useUnderstood(job, held.id);
  const change = useSetMap(job, held.id);
  const confirm = useConfirmImport(job);
  const leave = useCancelImport(job);
  const [text, setText] = useState("");
  const [seen, setSeen] = useState("");
  useEffect(() => {
    if (data && data.map !== seen) {
      setSeen(data.map);
      setText(data.map);
    }
  }, [data, seen]);
  if (error && !data) return <Trouble error={error} retry={refetch} />;
  if (!data) return <Waiting what="what was sent" />;
  const problems = data.problems as unknown as Problem[];
  const changed = text !== data.map;
  const wrong = new Map(problems.filter((p) => p.file === "the map" && p.row).map((p) => [p.row as number, p.message]));
  return (
    <div className="flex h-full flex-col gap-3">
      <header className="flex items-center gap-3">
        <h1 className="min-w-0 flex-1 truncate text-base font-semibold">
          {held.name} <span className="font-normal text-faint">{verdict(data, problems)}</span>
        </h1>
        <button type="button" className={BUTTON} onClick={() => leave.mutate(held.id)}>
          Leave it
        </button>
        <button
          type="button"
          className={PRIMARY}
          disabled={problems.length > 0 || changed || isFetching || change.isPending || confirm.isPending}
          onClick={() => confirm.mutate(held.id)}
        >
          Take it in
        </button>
      </header>
      <Refusal error={confirm.error ?? leave.error ?? change.error} />
      <div
        className={`grid min-h-0 flex-1 gap-4 ${data.kind === "tables" ? "grid-cols-[minmax(0,5fr)_minmax(0,6fr)]" : ""}`}
      >
        {data.kind === "tables" && (
          <section className="flex min-h-0 flex-col gap-2" aria-label="The map">
            <div className="flex items-center gap-2">
              <p className="flex-1 text-faint">
                <b className="text-ink">Column map.</b> {FROM[data.map_from]}
              </p>
              <button
                type="button"
                className={BUTTON}
                disabled={!changed || change.isPending}
                onClick={() => change.mutate(text)}
              >
                {change.isPending ? "Looking …" : "Look again"}
              </button>
            </div>
            <MapEditor text={text} setText={setText} wrong={changed ? new Map() : wrong} />
          </section>
        )}
        <Scroll className="min-h-0 pr-1" label="What was understood">
          <Problems problems={problems} />
          <UnderstoodTables found={data} />
        </Scroll>
      </div>
    </div>
  );
}

function verdict(found: Understood, problems: Problem[]): string {
  if (problems.length) return `${problems.length} thing${problems.length > 1 ? "s" : ""} to put right`;
  return found.whole ? "all of it reads" : "large: it is read to its end when it is taken in";
}

import { useEffect, useState } from "react";
import { useDebouncedCallback } from "use-debounce";
import type { Problem } from "../api/client";
import { useCancelImport, useChangeMap, useConfirmImport, useSetMap, useUnderstood } from "../api/queries";
import type { Import, Understood } from "../api/types";
import { BUTTON, PRIMARY, Refusal } from "../parts/dialog";
import { Trouble, Waiting } from "../parts/empty";
import { Scroll } from "../parts/scroll";
import { MapEditor } from "./map-editor";
import { Maps } from "./maps";
import { Pointing } from "./pointing";
import { Problems } from "./problems";
import { UnderstoodTables } from "./understood";

const SETTLED = 900; // milliseconds after the last key, when the text is looked at

/** A model that was sent and waits for somebody's word: its map made by pointing, the text of it beside, each in step with the other. */
export function Looking({ job, held }: { job: string; held: Import }) {
  const { data, error, refetch, isFetching } = useUnderstood(job, held.id);
  const write = useSetMap(job, held.id);
  const change = useChangeMap(job, held.id);
  const confirm = useConfirmImport(job);
  const leave = useCancelImport(job);
  const [table, setTable] = useState("nodes");
  const [text, setText] = useMapText(data, write.mutate);
  if (error && !data) return <Trouble error={error} retry={refetch} />;
  if (!data) return <Waiting what="what was sent" />;
  const problems = data.problems as unknown as Problem[];
  const tables = data.kind === "tables";
  const looking = isFetching || write.isPending || change.isPending;
  const wrong = new Map(problems.filter((p) => p.file === "the map" && p.row).map((p) => [p.row as number, p.message]));
  const take = async () => {
    if (tables && data.map_from !== "given") await write.mutateAsync(data.map);
    confirm.mutate(held.id);
  };
  return (
    <div className="flex h-full flex-col gap-3">
      <header className="flex items-center gap-3">
        <h1 className="min-w-0 flex-1 truncate text-base font-semibold">
          {held.name}{" "}
          <span className="font-normal text-faint" role="status">
            {looking ? "looking …" : verdict(data, problems)}
          </span>
        </h1>
        <button type="button" className={BUTTON} onClick={() => leave.mutate(held.id)}>
          Leave it
        </button>
        <button
          type="button"
          className={PRIMARY}
          disabled={problems.length > 0 || text !== data.map || looking || confirm.isPending}
          onClick={take}
        >
          Take it in
        </button>
      </header>
      <Refusal error={confirm.error ?? leave.error ?? write.error ?? change.error} />
      {tables ? (
        <>
          <Maps job={job} number={held.id} found={data} />
          <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,8fr)_minmax(0,5fr)] gap-4">
            <Scroll className="min-h-0 pr-1" label="The map by pointing">
              <Problems problems={problems} />
              <Pointing found={data} change={change.mutate} picked={table} pick={setTable} />
            </Scroll>
            <section className="flex min-h-0 flex-col" aria-label="The map">
              <MapEditor text={text} setText={setText} wrong={text === data.map ? wrong : new Map()} at={table} />
            </section>
          </div>
        </>
      ) : (
        <Scroll className="min-h-0 flex-1 pr-1" label="What was understood">
          <Problems problems={problems} />
          <UnderstoodTables found={data} />
        </Scroll>
      )}
    </div>
  );
}

/** The text as it is typed: sent when it has settled, and replaced by what was made of it elsewhere. */
function useMapText(data: Understood | undefined, send: (text: string) => void): [string, (text: string) => void] {
  const [text, setText] = useState("");
  const [seen, setSeen] = useState("");
  const sendSoon = useDebouncedCallback(send, SETTLED);
  useEffect(() => {
    if (data && data.map !== seen) {
      setSeen(data.map);
      setText(data.map);
    }
  }, [data, seen]);
  return [
    text,
    (next) => {
      setText(next);
      sendSoon(next);
    },
  ];
}

function verdict(found: Understood, problems: Problem[]): string {
  if (problems.length) return `${problems.length} thing${problems.length > 1 ? "s" : ""} to put right`;
  return found.whole ? "all of it reads" : "large: it is read to its end when it is taken in";
}

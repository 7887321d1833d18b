import { useState } from "react";
import { Refused } from "../api/client";
import { useOutputMaps, useOutputText, useOutputTried } from "../api/outputs";
import type { OutputTable } from "../api/types";
import { MapEditor } from "../import/map-editor";
import { Problems } from "../import/problems";
import { Choice } from "../parts/choice";
import { BUTTON, PRIMARY, Refusal } from "../parts/dialog";
import { useFile } from "../parts/download";
import { KeepMap } from "../parts/keep-map";

const SHOWN = 4; // rows of each table

/** Our rows under another program's names: a map proposed or the house's, tried with the first rows shown, written. */
export function Output({ job }: { job: string }) {
  const { data: maps = [] } = useOutputMaps();
  const [name, setName] = useState("");
  const [text, setText] = useState("");
  const [asked, ask] = useState("");
  const take = useOutputText(job);
  const tried = useOutputTried(job, asked);
  const [get, why] = useFile();
  const begin = (from: string) => {
    setName(from);
    take.mutate(from, {
      onSuccess: (map) => {
        setText(map);
        ask(map);
      },
    });
  };
  const problems = tried.error instanceof Refused && asked === text ? tried.error.problems : [];
  const wrong = new Map(problems.flatMap((one) => (one.row ? [[one.row, one.message] as const] : [])));
  return (
    <section aria-label="Rows for another program" className="mt-5 rounded bg-sheet p-4">
      <div className="flex flex-wrap items-center gap-2">
        <h2 className="mr-2 font-semibold">Rows for another program</h2>
        {maps.length > 0 && (
          <Choice
            label="Output map"
            value={name}
            options={[
              { value: "", words: "proposed from the model's own map" },
              ...maps.map((one) => ({ value: one.name, words: one.note ? `${one.name}: ${one.note}` : one.name })),
            ]}
            onChange={begin}
          />
        )}
        {text === "" ? (
          <button type="button" className={BUTTON} disabled={take.isPending} onClick={() => begin(name)}>
            {take.isPending ? "Looking …" : "Show the map"}
          </button>
        ) : (
          <>
            <button
              type="button"
              className={BUTTON}
              disabled={tried.isFetching}
              onClick={() => (asked === text ? tried.refetch() : ask(text))}
            >
              {tried.isFetching ? "Looking …" : "Show the first rows"}
            </button>
            <button
              type="button"
              className={PRIMARY}
              onClick={() => get(`/api/v1/jobs/${encodeURIComponent(job)}/output/file`, { map: text })}
            >
              Write the file
            </button>
            <KeepMap text={text} words="By a name, above its jobs: rows of any job go out by it." />
            <button type="button" className={BUTTON} onClick={() => setText("")}>
              Close
            </button>
          </>
        )}
        {why}
      </div>
      <p className="mt-1 text-faint">
        Results, sizes, what is taken off ends, forces, marks and lists under the names, codes, units and signs of
        another program.
      </p>
      <Refusal error={take.error} />
      {text !== "" && (
        <div className="mt-3 grid h-[420px] grid-cols-[minmax(360px,5fr)_7fr] gap-4">
          <div className="flex min-h-0 flex-col">
            <MapEditor text={text} setText={setText} wrong={wrong} at="" label="Output map as text" />
          </div>
          <div className="min-h-0 overflow-auto">
            {asked !== text && <p className="text-brass-dark">The map was changed: these are the rows of before.</p>}
            {problems.length > 0 ? <Problems problems={problems} /> : <Refusal error={tried.error} />}
            {!tried.error &&
              tried.data?.map((one) => <Written key={`${one.file} ${one.sheet} ${one.name}`} table={one} />)}
          </div>
        </div>
      )}
    </section>
  );
}

/** One table: its columns, each a line, with the first rows beside each other. */
function Written({ table }: { table: OutputTable }) {
  const first = table.sample.slice(0, SHOWN);
  const numbers = first.map((_, k) => k + 1);
  return (
    <table className="mb-4 w-full table-fixed text-xs">
      <caption className="pb-1 text-left text-sm">
        <b>{table.file}</b>
        {table.sheet && `, sheet ${table.sheet}`}: {table.rows} rows of {table.rows_of}
      </caption>
      <thead className="text-left text-faint">
        <tr>
          <th className="w-40 font-normal">column</th>
          <th className="w-14 font-normal">unit</th>
          {numbers.map((k) => (
            <th key={k} className="font-normal">
              row {k}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {table.columns.map((column, n) => (
          <tr key={column.name} className="border-t border-line/60">
            <td className="truncate font-medium" title={column.name}>
              {column.name}
            </td>
            <td className="text-faint">{column.unit}</td>
            {numbers.map((k) => (
              <td key={k} className="truncate pr-2" title={first[k - 1]?.[n]}>
                {first[k - 1]?.[n]}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

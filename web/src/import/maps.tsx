import { useChooseMap } from "../api/queries";
import type { Understood } from "../api/types";
import { Choice } from "../parts/choice";
import { BUTTON, Refusal } from "../parts/dialog";
import { KeepMap } from "../parts/keep-map";
import type { Pointing } from "./map-shape";

const FROM = {
  given: "changed here",
  sent: "the one beside the tables",
  saved: "this job's last",
  house: "the house's, which fits",
  proposed: "proposed from the files",
  "": "",
};

/** Where the map comes from, and others to take in its place: one of the house's with what does not fit, the job's last, or proposed anew. */
export function Maps({ job, number, found }: { job: string; number: number; found: Understood }) {
  const choose = useChooseMap(job, number);
  const { maps } = found.pointing as Pointing;
  const options = [
    { value: "", words: FROM[found.map_from] },
    ...maps.map((own) => ({
      value: `house ${own.name}`,
      words: `the house's ${own.name}: ${own.misfits.length ? `${own.misfits.length} misfit${own.misfits.length > 1 ? "s" : ""}` : "fits"}`,
    })),
    { value: "saved", words: "this job's last" },
  ];
  const misfits = maps.filter((own) => own.misfits.length);
  return (
    <div className="flex items-center gap-2">
      <span className="text-faint">Map:</span>
      <Choice
        label="Map"
        value=""
        options={options}
        onChange={(value) => {
          const [take, name = ""] = value.split(" ");
          if (take) choose.mutate({ take: take as "house" | "saved", name });
        }}
      />
      <button
        type="button"
        className={`${BUTTON} py-1`}
        disabled={choose.isPending}
        onClick={() => choose.mutate({ take: "proposed", name: "" })}
      >
        {choose.isPending ? "Looking …" : "Propose anew"}
      </button>
      <KeepMap text={found.map} words="By a name, above its jobs: it is proposed wherever it fits." />
      {misfits.length > 0 && (
        <details className="text-xs text-faint">
          <summary>
            {misfits.length} of the house's map{misfits.length > 1 ? "s" : ""} would not fit
          </summary>
          <ul className="absolute z-10 mt-1 max-h-60 max-w-lg overflow-y-auto rounded border border-line bg-sheet p-2 shadow-lg">
            {misfits.flatMap((own) =>
              own.misfits.map((words) => (
                <li key={own.name + words}>
                  <b>{own.name}</b> {words}
                </li>
              )),
            )}
          </ul>
        </details>
      )}
      <Refusal error={choose.error} />
    </div>
  );
}

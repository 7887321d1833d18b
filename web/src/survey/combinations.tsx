import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import { useCombinations, useGenerate, useKeepCombinations } from "../api/queries";
import type { Basis, Combinations } from "../api/types";
import { Choice } from "../parts/choice";
import { BUTTON, FIELD, PRIMARY, Refusal } from "../parts/dialog";
import { Trouble, Waiting } from "../parts/empty";
import { to } from "../paths";

type One = Combinations["combinations"][number];

/** The combinations that everything is judged by; others are made from the natures of the cases, looked at, and kept as the next revision. */
export function CombinationsPanel({ job, allowed }: { job: string; allowed: boolean }) {
  const { data, error, refetch } = useCombinations(job);
  const [made, setMade] = useState<One[] | null>(null);
  const keep = useKeepCombinations(job);
  if (error) return <Trouble error={error} retry={refetch} />;
  if (!data) return <Waiting what="the combinations" />;
  if (keep.isSuccess)
    return (
      <p>
        They make the next revision now.{" "}
        <Link to={to(job, "import")} className="font-semibold text-brass-dark hover:underline">
          See how far it is
        </Link>
      </p>
    );
  const shown = made ?? data.combinations;
  const broken = shown.some((c) => !c.terms.length);
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_280px] gap-8">
      <section aria-label="Combinations">
        <header className="flex items-center gap-3">
          <h2 className="flex-1 font-semibold">
            {made ? `${shown.length} made, not kept yet` : `${shown.length} combinations of the model`}
          </h2>
          {made && (
            <>
              <button type="button" className={BUTTON} onClick={() => setMade(null)}>
                Leave them
              </button>
              <button
                type="button"
                className={PRIMARY}
                disabled={broken || !shown.length || keep.isPending}
                onClick={() => keep.mutate(shown)}
              >
                Keep as the next revision
              </button>
            </>
          )}
        </header>
        <Refusal error={keep.error} />
        <table className="mt-2 w-full text-left text-xs">
          <thead className="text-faint">
            <tr>
              {["combination", "set", "method", "terms", ...(made ? ["out"] : [])].map((name) => (
                <th key={name} className="py-1 pr-3 font-normal">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {shown.map((c, at) => (
              <tr key={c.name} className="border-t border-line/60">
                <td className="py-1 pr-3 font-medium">{c.name}</td>
                <td className="pr-3">{c.set}</td>
                <td className="pr-3">{c.method}</td>
                <td className="pr-3">
                  {made ? (
                    <Terms
                      one={c}
                      cases={data.cases.map((x) => x.name)}
                      change={(terms) => setMade(made.map((m, k) => (k === at ? { ...m, terms } : m)))}
                    />
                  ) : (
                    written(c.terms)
                  )}
                </td>
                <td>
                  {made && (
                    <button
                      type="button"
                      aria-label={`Leave out ${c.name}`}
                      className="text-faint hover:text-fail"
                      onClick={() => setMade(made.filter((_, k) => k !== at))}
                    >
                      ✕
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <aside className="space-y-5">
        <section aria-label="Cases">
          <h2 className="font-semibold">Cases</h2>
          <table className="mt-1 w-full text-left text-xs">
            <tbody>
              {data.cases.map((c) => (
                <tr key={c.name} className="border-t border-line/60">
                  <td className="py-1 pr-2 font-medium">{c.name}</td>
                  <td className="pr-2">{c.title}</td>
                  <td className="text-faint">
                    {c.nature.replace("_", " ")}
                    {c.kind !== "linear" && `, ${c.kind}`}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {data.left_out.length > 0 && (
            <p className="mt-1 text-unchecked">No basic combination takes {data.left_out.join(", ")}.</p>
          )}
        </section>
        {allowed && <Make job={job} done={setMade} />}
      </aside>
    </div>
  );
}

const written = (terms: One["terms"]) =>
  terms.map(([name, factor], k) => `${factor < 0 ? "- " : k ? "+ " : ""}${Math.abs(factor)} ${name}`).join(" ");

/** `1.2 D + 1.6 L` as terms; null where it is none, or names a case that is not there. */
function read(text: string, cases: string[]): One["terms"] | null {
  const found: One["terms"] = [];
  for (const part of text.replaceAll("- ", "+ -").split(/\s\+\s|^\+\s/)) {
    const match = /^\s*(-?\d*\.?\d+)\s+(\S.*?)\s*$/.exec(part);
    if (!match || !cases.includes(match[2])) return null;
    found.push([match[2], Number(match[1])]);
  }
  return found.length ? found : null;
}

function Terms({ one, cases, change }: { one: One; cases: string[]; change: (terms: One["terms"]) => void }) {
  const [text, setText] = useState(written(one.terms));
  const wrong = read(text, cases) === null;
  return (
    <input
      aria-label={`Terms of ${one.name}`}
      aria-invalid={wrong}
      className={`w-full rounded border bg-white px-1.5 py-0.5 ${wrong ? "border-fail" : "border-line"}`}
      value={text}
      onChange={(event) => {
        setText(event.target.value);
        change(read(event.target.value, cases) ?? []);
      }}
    />
  );
}

function Make({ job, done }: { job: string; done: (made: One[]) => void }) {
  const [basis, setBasis] = useState<Basis>({
    edition: "7-22",
    methods: ["LRFD"],
    S_DS: 0,
    rho: 1,
    omega: 0,
    category: "B",
    one_way: [],
    service: true,
  });
  const make = useGenerate(job);
  const set = (change: Partial<Basis>) => setBasis({ ...basis, ...change });
  const number = (name: "S_DS" | "rho" | "omega") => (
    <input
      aria-label={name}
      type="number"
      step="0.01"
      min="0"
      className={FIELD}
      value={basis[name]}
      onChange={(event) => set({ [name]: Number(event.target.value) })}
    />
  );
  return (
    <form
      aria-label="Make combinations"
      onSubmit={(event) => {
        event.preventDefault();
        make.mutate(basis, { onSuccess: (found) => done(found.combinations) });
      }}
    >
      <h2 className="font-semibold">Make them from the cases</h2>
      <Line words="Basic combinations of">
        <Choice
          label="Edition"
          className="mt-1 w-full"
          value={basis.edition}
          options={[
            { value: "7-22", words: "ASCE 7-22" },
            { value: "7-16", words: "ASCE 7-16" },
          ]}
          onChange={(edition) => set({ edition: edition as Basis["edition"] })}
        />
      </Line>
      <Line words="Methods">
        <Choice
          label="Methods"
          className="mt-1 w-full"
          value={basis.methods.join("+")}
          options={["LRFD", "ASD", "LRFD+ASD"].map((value) => ({ value, words: value.replace("+", " and ") }))}
          onChange={(methods) => set({ methods: methods.split("+") as Basis["methods"] })}
        />
      </Line>
      <Line words="Seismic design category">
        <Choice
          label="Category"
          className="mt-1 w-full"
          value={basis.category}
          options={["A", "B", "C", "D", "E", "F"].map((value) => ({ value, words: value }))}
          onChange={(category) => set({ category: category as Basis["category"] })}
        />
      </Line>
      <div className="grid grid-cols-3 gap-2">
        <Line words="S_DS">{number("S_DS")}</Line>
        <Line words="redundancy">{number("rho")}</Line>
        <Line words="overstrength">{number("omega")}</Line>
      </div>
      <p className="mt-1 text-xs text-faint">An overstrength factor of 0 makes no such set.</p>
      <Refusal error={make.error} />
      <button type="submit" className={`mt-3 ${PRIMARY}`} disabled={make.isPending}>
        Show them
      </button>
    </form>
  );
}

function Line({ words, children }: { words: string; children: ReactNode }) {
  return (
    <div className="mt-2">
      <span className="text-xs text-faint">{words}</span>
      {children}
    </div>
  );
}

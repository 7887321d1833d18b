import type { Form, Units } from "../api/bench";
import { CASES, COMBINED, KINDS, otherwise, pasted, type Row, rowsOf, twice, UNITS, unfactored } from "./actions";

const HELP: Record<string, string> = {
  N: "pulls the end away from its support, +",
  V: "pushes the end up in the plane of its web, +",
  Vw: "across the web",
  M: "top flange in tension, +",
  Mw: "about the web",
  T: "twist",
  V_opposed: "of the beam on the other side",
  N_opposed: "of the beam on the other side",
  N_support: "the hollow column's own force",
};

/** The actions, a line each, factored or by case, at one place or several; typed, or pasted from a spreadsheet. A number without a unit is in the unit of its column. */
export function Acting({
  form,
  change,
  carries,
  units,
}: {
  form: Form;
  change: (form: Form) => void;
  carries: string[];
  units: Units;
}) {
  const rows = rowsOf(form);
  const opposed = Boolean((form.geometry as Row | undefined)?.opposed);
  const shown = Object.keys(KINDS).filter(
    (name) =>
      carries.includes(name) ||
      rows.some((row) => row[name] !== undefined) ||
      (opposed && (name === "V_opposed" || name === "N_opposed")),
  );
  const bare = unfactored(form);
  const several = rows.some((row) => row.place !== undefined);
  const texts = [...(several ? ["place"] : []), "name"];
  const heads: Record<string, string> = { place: "place", name: bare ? "case" : "combination" };
  const zero = `0 ${UNITS[units].force}`;
  const unit = (name: string) => UNITS[units][KINDS[name]];
  const put = (next: Row[]) => change({ ...form, actions: next });
  const cell = (k: number, name: string, text: string) =>
    put(
      rows.map((row, n) => {
        if (n !== k) return row;
        const { [name]: _, ...rest } = row;
        return text === "" ? rest : { ...rest, [name]: text };
      }),
    );
  const again = twice(form);
  const part = (on: boolean) => (on ? "font-semibold text-ink" : "text-brass-dark underline-offset-2 hover:underline");
  return (
    <div>
      <p className="mb-1 flex flex-wrap items-center gap-x-3 text-xs">
        {[false, true].map((cases) => (
          <button
            key={String(cases)}
            type="button"
            aria-pressed={bare === cases}
            className={part(bare === cases)}
            onClick={() => bare !== cases && change(otherwise(form, zero))}
          >
            {cases ? "unfactored cases" : "factored"}
          </button>
        ))}
        <label className="ml-auto flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={several}
            onChange={(event) =>
              put(
                event.target.checked
                  ? [...rows.map((row) => ({ place: "A", ...row })), { place: "B", ...rows[0] }]
                  : rows.filter((row) => row.place === rows[0].place).map(({ place: _, ...row }) => row),
              )
            }
          />
          several places share it
        </label>
      </p>
      <datalist id="bench-cases">
        {CASES.map((name) => (
          <option key={name} value={name} />
        ))}
      </datalist>
      <div className="max-h-52 overflow-y-auto">
        <table className="w-full table-fixed text-xs">
          <thead className="sticky top-0 bg-sheet">
            <tr className="text-left text-faint">
              {texts.map((name) => (
                <th key={name} className={`${several ? "w-[19%]" : "w-[31%]"} align-bottom font-normal`}>
                  {heads[name]}
                </th>
              ))}
              {shown.map((name) => (
                <th key={name} className="pr-1 align-bottom font-normal leading-tight" title={HELP[name]}>
                  {name.replace("_", " ")},<wbr /> {unit(name).replace("*", "·")}
                </th>
              ))}
              <th className="w-4">
                <span className="sr-only">take away</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row, k) => (
              <tr key={k}>
                {[...texts, ...shown].map((name) => (
                  <td key={name} className="pr-1">
                    <input
                      aria-label={`${name} of action ${k + 1}`}
                      className="w-full min-w-0 rounded border border-line bg-white px-1 py-0.5"
                      value={String(row[name] ?? "")}
                      spellCheck={false}
                      list={bare && name === "name" ? "bench-cases" : undefined}
                      onChange={(event) => cell(k, name, event.target.value)}
                      onPaste={(event) => {
                        const text = event.clipboardData.getData("text");
                        const of = pasted(
                          text,
                          [...texts, ...shown],
                          Object.fromEntries(Object.keys(KINDS).map((n) => [n, unit(n)])),
                          ["place", "name", ...Object.keys(KINDS)],
                        );
                        if (!of?.length || !text.includes("\t")) return;
                        event.preventDefault();
                        put([...rows.slice(0, k), ...of]);
                      }}
                    />
                  </td>
                ))}
                <td>
                  {rows.length > 1 && (
                    <button
                      type="button"
                      aria-label={`Take action ${k + 1} away`}
                      className="text-faint hover:text-fail"
                      onClick={() => put(rows.filter((_, n) => n !== k))}
                    >
                      ×
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <button
        type="button"
        className="mt-1 text-xs text-brass-dark underline-offset-2 hover:underline"
        onClick={() => put([...rows, { ...below(rows), V: zero }])}
      >
        {bare ? "+ a case" : "+ a combination"}
      </button>
      <span className="ml-3 text-xs text-faint">or paste rows from a spreadsheet</span>
      {bare && (
        <p className="mt-1 text-xs text-faint">Combined by {COMBINED}, every combination that these cases make.</p>
      )}
      {again && (
        <p role="alert" className="mt-1 text-xs text-fail">
          {again} Nothing is tried until one of the two has another name.
        </p>
      )}
    </div>
  );
}

/** What a line more begins with: the place of the last, and a name that is not there yet. */
function below(rows: Row[]): Row {
  const { place } = rows.at(-1) ?? {};
  const there = new Set(rows.filter((row) => row.place === place).map((row) => String(row.name)));
  const own = there.has("D") ? CASES.find((name) => !there.has(name)) : undefined;
  return { ...(place === undefined ? {} : { place }), name: own ?? String(there.size + 1) };
}

import type { Form, Units } from "../api/bench";
import { BUTTON } from "../parts/dialog";
import { KINDS, pasted, type Row, rowsOf, UNITS } from "./form";

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

/** The actions, a line each; typed, or pasted from a spreadsheet. A number without a unit is in the unit of its column. */
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
  if (!rows)
    return (
      <p className="text-xs text-faint">
        Actions of several places, or unfactored cases, as the file has them: they are checked as they are.
        <button
          type="button"
          className={`${BUTTON} ml-2 py-0.5`}
          onClick={() => {
            const { cases: _, combinations: __, ...rest } = form;
            change({ ...rest, actions: [{ name: "1", V: "0 kip" }] });
          }}
        >
          Write them anew
        </button>
      </p>
    );
  const opposed = Boolean((form.geometry as Row | undefined)?.opposed);
  const shown = Object.keys(KINDS).filter(
    (name) =>
      carries.includes(name) ||
      rows.some((row) => row[name] !== undefined) ||
      (opposed && (name === "V_opposed" || name === "N_opposed")),
  );
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
  return (
    <div>
      <div className="max-h-52 overflow-y-auto">
        <table className="w-full table-fixed text-xs">
          <thead className="sticky top-0 bg-sheet">
            <tr className="text-left text-faint">
              <th className="w-[31%] font-normal">combination</th>
              {shown.map((name) => (
                <th key={name} className="pr-1 align-bottom font-normal leading-tight" title={HELP[name]}>
                  {name.replace("_", " ")},<wbr /> {unit(name).replace("*", "·")}
                </th>
              ))}
              <th className="w-4" />
            </tr>
          </thead>
          <tbody>
            {rows.map((row, k) => (
              <tr key={k}>
                {["name", ...shown].map((name) => (
                  <td key={name} className="pr-1">
                    <input
                      aria-label={`${name} of action ${k + 1}`}
                      className="w-full min-w-0 rounded border border-line bg-white px-1 py-0.5"
                      value={String(row[name] ?? "")}
                      spellCheck={false}
                      onChange={(event) => cell(k, name, event.target.value)}
                      onPaste={(event) => {
                        const text = event.clipboardData.getData("text");
                        const of = pasted(
                          text,
                          ["name", ...Object.keys(KINDS)],
                          Object.fromEntries(Object.keys(KINDS).map((n) => [n, unit(n)])),
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
        onClick={() => put([...rows, { name: String(rows.length + 1), V: `0 ${UNITS[units].force}` }])}
      >
        + a combination
      </button>
      <span className="ml-3 text-xs text-faint">or paste rows from a spreadsheet</span>
    </div>
  );
}

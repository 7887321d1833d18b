import type { Form } from "../api/bench";
import type { BenchSize } from "../api/types";
import { mapping, withEntry } from "./form";

const GROUPS: [of: string[], title: string][] = [
  [["piece"], "Pieces, bolts and welds"],
  [["members", "ground"], "What is cut or drilled, and what it stands on"],
  [["asked", "site", "method", "known"], "What is asked of it, and how it is judged"],
];
const FROM: Record<string, string> = { geometry: "follows", default: "usual", given: "yours" };

/** Every size: what was asked, what follows and from what, bounds and what it is; held where it is to stay when it is sized. */
export function Sizes({
  form,
  change,
  sizes,
  moved,
  held,
  hold,
  part,
  setPart,
}: {
  form: Form;
  change: (form: Form) => void;
  sizes: BenchSize[];
  moved: Set<string>; // since the last look
  held: Set<string>;
  hold: (name: string) => void;
  part: string;
  setPart: (part: string) => void;
}) {
  const given = mapping(form, "parameters");
  return (
    <div className="space-y-2">
      {GROUPS.map(([of, title], k) => {
        const own = sizes.filter((size) => of.includes(size.of));
        if (!own.length) return null;
        return (
          <details key={title} open={k === 0 || own.some((size) => size.name in given)}>
            <summary className="cursor-pointer py-1 text-xs font-semibold text-faint">{title}</summary>
            {own.map((size) => (
              <label
                key={size.name}
                title={[size.help, size.bounds, size.formula].filter(Boolean).join(". ")}
                className={`grid grid-cols-[minmax(0,1fr)_112px_52px_18px] items-center gap-2 rounded px-1 py-0.5 text-xs ${moved.has(size.name) ? "bg-brass/20" : ""} ${part === size.name ? "ring-1 ring-brass" : ""}`}
              >
                <span className="truncate">{size.label}</span>
                <input
                  aria-label={size.label}
                  className={`w-full min-w-0 rounded border bg-white px-1.5 py-0.5 ${size.name in given ? "border-brass-dark font-semibold" : "border-line"}`}
                  value={String(given[size.name] ?? "")}
                  placeholder={size.text || "none"}
                  list={size.choices.length ? `choices-${size.name}` : undefined}
                  spellCheck={false}
                  onFocus={() => setPart(size.name)}
                  onChange={(event) => change(withEntry(form, "parameters", size.name, event.target.value))}
                />
                <span className="truncate text-faint">{FROM[size.source] ?? size.source}</span>
                <input
                  type="checkbox"
                  aria-label={`Hold ${size.label}`}
                  title="stays when it is sized"
                  checked={held.has(size.name)}
                  disabled={!(size.name in given)}
                  onChange={() => hold(size.name)}
                />
                {size.choices.length > 0 && (
                  <datalist id={`choices-${size.name}`}>
                    {size.choices.map((one) => (
                      <option key={one} value={one} />
                    ))}
                  </datalist>
                )}
              </label>
            ))}
          </details>
        );
      })}
    </div>
  );
}

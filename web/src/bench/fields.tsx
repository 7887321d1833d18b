import { useId, useState } from "react";
import { useSections } from "../api/bench";

const INPUT = "w-full min-w-0 rounded border border-line bg-white px-2 py-1";

/** A field that says what it is; what is typed counts at once. */
export function Field({
  label,
  value,
  set,
  placeholder,
  title,
}: {
  label: string;
  value: string;
  set: (value: string) => void;
  placeholder?: string;
  title?: string;
}) {
  return (
    <label className="block min-w-0 text-xs text-faint" title={title}>
      {label}
      <input
        className={`${INPUT} text-sm text-ink`}
        value={value}
        placeholder={placeholder}
        spellCheck={false}
        onChange={(event) => set(event.target.value)}
      />
    </label>
  );
}

/** One of a list, or what is typed. */
export function Listed({
  label,
  value,
  set,
  options,
}: {
  label: string;
  value: string;
  set: (value: string) => void;
  options: string[];
}) {
  const id = useId();
  return (
    <label className="block min-w-0 text-xs text-faint">
      {label}
      <input
        className={`${INPUT} text-sm text-ink`}
        list={id}
        value={value}
        spellCheck={false}
        onChange={(event) => set(event.target.value)}
      />
      <datalist id={id}>
        {options.map((one) => (
          <option key={one} value={one} />
        ))}
      </datalist>
    </label>
  );
}

/** A section by a part of its name: those that are called so, the lightest first. It is taken once it is one. */
export function SectionField({ label, value, set }: { label: string; value: string; set: (value: string) => void }) {
  const [text, setText] = useState<string | undefined>();
  const typed = text ?? value;
  const { data: found = [] } = useSections(text === undefined ? "" : typed);
  const take = (name: string) => {
    setText(undefined);
    set(name);
  };
  const plain = (name: string) => name.replaceAll(" ", "").toUpperCase();
  return (
    <div className="relative min-w-0 text-xs text-faint">
      <label>
        {label}
        <input
          className={`${INPUT} text-sm text-ink`}
          value={typed}
          spellCheck={false}
          role="combobox"
          aria-expanded={text !== undefined}
          aria-controls="sections-found"
          onChange={(event) => {
            const now = event.target.value;
            setText(now);
            const exact = found.find((one) => plain(one.name) === plain(now));
            if (exact) set(exact.name);
          }}
          onKeyDown={(event) => {
            if (event.key === "Enter" && found[0])
              take((found.find((one) => plain(one.name) === plain(typed)) ?? found[0]).name);
            if (event.key === "Escape") setText(undefined);
          }}
          onBlur={() => window.setTimeout(() => setText(undefined), 150)}
        />
      </label>
      {text !== undefined && found.length > 0 && (
        <ul
          id="sections-found"
          className="absolute inset-x-0 z-20 max-h-56 overflow-y-auto rounded border border-line bg-sheet shadow-lg"
        >
          {found.map((one) => (
            <li key={one.name}>
              <button
                type="button"
                className="flex w-full justify-between px-2 py-0.5 text-left text-sm text-ink hover:bg-paper"
                onMouseDown={(event) => event.preventDefault()}
                onClick={() => take(one.name)}
              >
                {one.name} <span className="text-xs text-faint">{one.mass.toFixed(1)} kg/m</span>
              </button>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

import { useState } from "react";
import { Choice } from "../parts/choice";
import { called, type Field, type OurColumn, type Use } from "./map-shape";

/** Fields that no column is yet: to be dragged onto one, or one value for all rows; those that have to be first. */
export function Open({ fields, same }: { fields: Field[]; same: (field: Field) => void }) {
  if (!fields.length) return null;
  return (
    <p className="mt-2 flex flex-wrap items-center gap-1 text-xs">
      <span className="text-faint">No column yet (drag one down, or choose below):</span>
      {fields.map((f) => (
        <span
          key={called(f)}
          draggable
          title={f.column.words}
          onDragStart={(event) => event.dataTransfer.setData("text/plain", called(f))}
          className={`cursor-grab rounded border px-1.5 ${f.column.required ? "border-fail/60 bg-fail/5 font-semibold" : "border-line text-faint"}`}
        >
          {called(f)}
        </span>
      ))}
      <Choice
        label="The same for all rows"
        value=""
        className="py-0 text-xs"
        options={[
          { value: "", words: "one for all rows …" },
          ...fields.map((f) => ({ value: called(f), words: called(f) })),
        ]}
        onChange={(next) => {
          const chosen = fields.find((f) => called(f) === next);
          if (chosen) same(chosen);
        }}
      />
    </p>
  );
}

/** Fields that are one value for all rows. */
export function Same({
  uses,
  fields,
  say,
}: {
  uses: Use[];
  fields: Field[];
  say: (use: Use, value: string | null) => void;
}) {
  if (!uses.length) return null;
  return (
    <p className="mt-2 flex flex-wrap items-center gap-2 text-xs">
      <span className="text-faint">The same for all rows:</span>
      {uses.map((use) => {
        const now = String(use.spec.value);
        const choices = fields.find((f) => f.column.name === use.ours && f.end === use.end)?.column.choices ?? [];
        const label = called({ column: { name: use.ours } as OurColumn, end: use.end });
        return (
          <span key={label} className={`flex items-center gap-1 ${now === "?" ? "text-fail" : ""}`}>
            {label}
            {choices.length ? (
              <Choice
                label={`${label} for all rows`}
                value={now}
                className="py-0 text-xs"
                options={[
                  { value: "", words: "a column" },
                  ...[...new Set([now, ...choices])].map((c) => ({ value: c, words: c })),
                ]}
                onChange={(value) => say(use, value || null)}
              />
            ) : (
              <Written label={`${label} for all rows`} now={now} say={(value) => say(use, value || null)} />
            )}
          </span>
        );
      })}
    </p>
  );
}

function Written({ label, now, say }: { label: string; now: string; say: (value: string) => void }) {
  const [text, setText] = useState(now);
  const done = () => {
    if (text !== now) say(text.trim());
  };
  return (
    <input
      aria-label={label}
      title="Empty: it is a column"
      className="w-20 rounded border border-line bg-white px-1 text-ink"
      value={text}
      onChange={(event) => setText(event.target.value)}
      onBlur={done}
      onKeyDown={(event) => event.key === "Enter" && done()}
    />
  );
}

import { useEffect, useRef } from "react";

const LINE = 20; // pixels

/** A map as text, with its lines numbered; the lines that something is wrong with are marked. */
export function MapEditor({
  text,
  setText,
  wrong,
  at,
  label = "Column map",
}: {
  text: string;
  setText: (text: string) => void;
  wrong: Map<number, string>;
  label?: string;
  at: string; // the table that is looked at: its lines come into view
}) {
  const gutter = useRef<HTMLPreElement>(null);
  const area = useRef<HTMLTextAreaElement>(null);
  const last = useRef("");
  useEffect(() => {
    if (!at || last.current === at || !area.current) return;
    last.current = at;
    const line = text.split("\n").findIndex((own) => own.trim() === `[tables.${at}]`);
    if (line >= 0) area.current.scrollTop = Math.max(line - 1, 0) * LINE;
  }, [at, text]);
  const lines = text.split("\n").length;
  return (
    <div className="flex min-h-0 flex-1 rounded border border-line bg-white font-mono text-xs leading-5">
      <pre
        ref={gutter}
        aria-hidden="true"
        className="w-10 shrink-0 select-none overflow-hidden border-r border-line bg-paper py-1 pr-1.5 text-right text-faint"
      >
        {Array.from({ length: lines }, (_, k) => k + 1).map((line) => (
          <span
            key={line}
            title={wrong.get(line)}
            className={`block ${wrong.has(line) ? "bg-fail font-bold text-white" : ""}`}
          >
            {line}
          </span>
        ))}
      </pre>
      <textarea
        ref={area}
        aria-label={label}
        spellCheck={false}
        wrap="off"
        value={text}
        onChange={(event) => setText(event.target.value)}
        onScroll={(event) => {
          if (gutter.current) gutter.current.scrollTop = event.currentTarget.scrollTop;
        }}
        className="min-h-0 flex-1 resize-none overflow-auto px-2 py-1 leading-5 outline-offset-[-2px]"
      />
    </div>
  );
}

import { useRef } from "react";

/** The column map as text, with its lines numbered; the lines that something is wrong with are marked. */
export function MapEditor({
  text,
  setText,
  wrong,
}: {
  text: string;
  setText: (text: string) => void;
  wrong: Map<number, string>;
}) {
  const gutter = useRef<HTMLPreElement>(null);
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
        aria-label="Column map"
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

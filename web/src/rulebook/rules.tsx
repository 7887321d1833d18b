import { GripVertical } from "lucide-react";
import { useState } from "react";
import type { Tried } from "../api/types";

type Rule = Tried["rules"][number];

/** The rules in their order, with how many connections each takes: dragged, or moved by keys, into another place. */
export function Rules({
  tried,
  changed,
  allowed,
  go,
  move,
}: {
  tried: Tried;
  changed: boolean;
  allowed: boolean;
  go: (line: number) => void;
  move: (rule: number, to: number) => void;
}) {
  const [held, setHeld] = useState<number | null>(null);
  const [over, setOver] = useState<number | null>(null);
  const own = tried.rules.filter((rule) => !rule.origin).length;
  const shadow = new Map(tried.shadowed.map((one) => [one.name, one.by]));
  return (
    <div>
      <p className="mb-1 px-1 text-xs text-faint">
        The first rule whose conditions hold takes a connection{changed ? "; as they are written here" : ""}.
      </p>
      {tried.nameless.length > 0 && (
        <ul aria-label="Names that nothing has" className="mb-1 max-h-28 overflow-y-auto px-1 text-xs text-[#8a5600]">
          {tried.nameless.map((one) => (
            <li key={`${one.where} ${one.fact} ${one.name}`}>
              {one.where}: nothing has {one.fact} {one.name}
              {one.near && `; did you mean ${one.near}?`}
            </li>
          ))}
        </ul>
      )}
      <ol aria-label="Rules in order">
        {tried.rules.map((rule, k) => (
          <li
            key={`${rule.origin} ${rule.name}`}
            draggable={allowed && !rule.origin}
            onDragStart={() => setHeld(k)}
            onDragEnd={() => {
              setHeld(null);
              setOver(null);
            }}
            onDragOver={(event) => {
              if (held === null || k >= own) return;
              event.preventDefault();
              setOver(k);
            }}
            onDrop={() => {
              if (held !== null && held !== k) move(held, k);
            }}
            className={`flex items-center gap-1.5 border-b border-line/60 py-1 pr-1 ${over === k && held !== null ? "bg-paper" : ""}`}
          >
            {allowed && !rule.origin ? (
              <button
                type="button"
                className="cursor-grab rounded p-0.5 text-faint"
                aria-label={`Move ${rule.name}: arrow up or down`}
                onKeyDown={(event) => {
                  const to = event.key === "ArrowUp" ? k - 1 : event.key === "ArrowDown" ? k + 1 : -1;
                  if (to >= 0 && to < own) {
                    event.preventDefault();
                    move(k, to);
                  }
                }}
              >
                <GripVertical size={13} />
              </button>
            ) : (
              <span className="w-[21px]" />
            )}
            <button
              type="button"
              className="min-w-0 flex-1 text-left hover:underline"
              onClick={() => go(rule.line)}
              disabled={Boolean(rule.origin)}
            >
              <span className="block truncate">{rule.name}</span>
              <Below rule={rule} by={shadow.get(rule.name)} />
            </button>
            <span className={`w-10 text-right ${rule.takes ? "font-semibold" : "text-unchecked"}`}>{rule.takes}</span>
          </li>
        ))}
      </ol>
      {tried.also.length > 0 && (
        <>
          <p className="mt-3 mb-1 px-1 text-xs text-faint">
            Also-rules add to whatever rule took a connection, in order.
          </p>
          <ol aria-label="Also-rules in order">
            {tried.also.map((also) => (
              <li
                key={`${also.origin} ${also.name}`}
                className="flex items-center gap-1.5 border-b border-line/60 py-1 pr-1"
              >
                <span className="w-[21px] text-center text-faint">+</span>
                <button
                  type="button"
                  className="min-w-0 flex-1 text-left hover:underline"
                  onClick={() => go(also.line)}
                  disabled={Boolean(also.origin)}
                >
                  <span className="block truncate">{also.name}</span>
                  <span className="block truncate text-[11px] text-faint" title={also.adds}>
                    {also.origin ? `of ${also.origin}: ` : ""}
                    {also.adds}
                  </span>
                </button>
                <span className={`w-10 text-right ${also.takes ? "font-semibold" : "text-unchecked"}`}>
                  {also.takes}
                </span>
              </li>
            ))}
          </ol>
        </>
      )}
      <p className="mt-2 px-1 text-xs">
        {tried.uncovered_total ? (
          <span className="text-unassigned">
            ○ {tried.uncovered_total} connections that there are standards for are taken by none:{" "}
            {tried.uncovered.slice(0, 4).join(", ")}
            {tried.uncovered_total > 4 ? " …" : ""}
          </span>
        ) : (
          <span className="text-faint">Every connection that there are standards for is taken.</span>
        )}
      </p>
      {tried.unresolved.slice(0, 5).map((one) => (
        <p key={one.connection} className="mt-1 px-1 text-xs text-unchecked">
          ? {one.connection}: {one.why}
        </p>
      ))}
      {tried.unresolved_total > 5 && (
        <p className="mt-1 px-1 text-xs text-unchecked">and {tried.unresolved_total - 5} more without a size</p>
      )}
    </div>
  );
}

function Below({ rule, by }: { rule: Rule; by: Record<string, number> | undefined }) {
  const first = by && Object.entries(by).sort((a, b) => b[1] - a[1])[0];
  const words = rule.origin
    ? `of ${rule.origin}`
    : rule.takes
      ? ""
      : first
        ? `never: ${first[0]} takes ${first[1]} of them before`
        : "never: no connection is like that";
  return words ? (
    <span className={`block truncate text-[11px] ${rule.origin ? "text-faint" : "text-unchecked"}`}>{words}</span>
  ) : null;
}

import type { Status } from "../api/types";
import { plain, REMARKED, STATUSES } from "../words";

/** A status as mark and word in its colour; a pass with remarks has its own. */
export function StatusMark({
  status,
  word = true,
  remarks = [],
}: {
  status: Status;
  word?: boolean;
  remarks?: string[];
}) {
  const { mark, colour, word: text } = status === "pass" && remarks.length ? REMARKED : STATUSES[status];
  return (
    <span
      className="inline-flex items-center gap-1.5 whitespace-nowrap font-medium"
      style={{ color: colour }}
      title={remarks.join("\n") || undefined}
    >
      <span aria-hidden className="inline-block w-3 text-center">
        {mark}
      </span>
      {word ? text : <span className="sr-only">{text}</span>}
    </span>
  );
}

/** Two decimals; three where two would hide which side of 1 it is on. */
export function share(value: number) {
  if (value > 99) return ">99";
  return value !== 1 && Math.abs(value - 1) < 0.005 ? value.toFixed(3) : value.toFixed(2);
}

/** How a connection is used; where only a rule of detailing fails that, for its strength is not what is wrong. */
export function Used({ utilisation, broken, wide }: { utilisation: number; broken: string; wide?: boolean }) {
  if (broken && utilisation <= 1)
    return (
      <span className="whitespace-nowrap font-medium text-[#b0322a]" title={`strengths are used ${share(utilisation)}`}>
        ✕ rule{wide ? `: ${plain(broken)}` : ""}
      </span>
    );
  return utilisation ? <Utilisation value={utilisation} wide={wide} /> : null;
}

/** A utilisation as a number with a bar; the tick stands at 1.00. */
export function Utilisation({ value, wide = false }: { value: number; wide?: boolean }) {
  const colour = value > 1 ? "#b0322a" : value > 0.9 ? "#8a5600" : "#23765a";
  return (
    <span className="inline-flex items-center gap-2">
      <span className="w-9 text-right">{share(value)}</span>
      <span className={`relative h-1.5 ${wide ? "w-24" : "w-10"} rounded-full bg-line`}>
        <span
          className="absolute inset-y-0 left-0 rounded-full"
          style={{ width: `${Math.min(value / 1.25, 1) * 100}%`, background: colour }}
        />
        <span className="absolute -inset-y-0.5 w-px bg-ink/60" style={{ left: "80%" }} />
      </span>
    </span>
  );
}

import { sentence } from "../words";

interface Collision {
  connection?: string;
  piece: string;
  other: string;
  its: string;
  fails: boolean;
  stands: boolean;
  words: string;
}

/** What stands in what: what fails, what a person let stand, what is told only. */
export function CollisionList({ of, label, className }: { of: Collision[]; label?: string; className?: string }) {
  return (
    <ul className={className} aria-label={label}>
      {of.map((c) => (
        <li key={`${c.connection}${c.piece}${c.other}${c.its}`} className={c.fails ? "text-fail" : "text-[#8a5600]"}>
          {c.fails ? "✕ " : c.stands ? "◆ let stand: " : "◆ "}
          {c.connection && `${c.connection}: `}
          {sentence(c.words)}
        </li>
      ))}
    </ul>
  );
}

import { useState } from "react";
import type { Whole } from "./whole";

const MOST = 8;

interface Found {
  words: string;
  more: string;
  go: () => void;
}

/** Find a joint, a member or a place by a part of its name. */
export function Find({
  whole,
  onJoint,
  onMember,
}: {
  whole: Whole;
  onJoint: (joint: string) => void;
  onMember: (member: string) => void;
}) {
  const [text, setText] = useState("");
  const found = text.trim() ? search(whole, text.trim().toLowerCase(), onJoint, onMember) : [];
  const take = (one: Found) => {
    one.go();
    setText("");
  };
  return (
    <div className="relative">
      <input
        value={text}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === "Enter" && found[0]) take(found[0]);
          if (e.key === "Escape") setText("");
        }}
        placeholder="find B12, n40, C/4"
        aria-label="Find a joint, member or place"
        className="w-40 rounded border border-line bg-white px-2 py-1"
      />
      {found.length > 0 && (
        <ul className="absolute left-0 top-full z-20 mt-1 w-72 rounded-md border border-line bg-sheet p-1 shadow-lg">
          {found.map((one) => (
            <li key={one.words + one.more}>
              <button
                type="button"
                className="flex w-full justify-between gap-3 rounded px-2 py-1 text-left hover:bg-paper"
                onClick={() => take(one)}
              >
                {one.words} <span className="text-faint">{one.more}</span>
              </button>
            </li>
          ))}
        </ul>
      )}
      {text.trim() && !found.length && (
        <p className="absolute left-0 top-full z-20 mt-1 w-72 rounded-md border border-line bg-sheet px-3 py-2 text-faint shadow-lg">
          no joint, member or place has “{text}” in its name
        </p>
      )}
    </div>
  );
}

/** What is called so first, then what begins so, then what holds it. */
function search(
  whole: Whole,
  text: string,
  onJoint: (joint: string) => void,
  onMember: (member: string) => void,
): Found[] {
  const ranked: [number, Found][] = [];
  const rank = (name: string) => {
    const low = name.toLowerCase();
    return low === text ? 0 : low.startsWith(text) ? 1 : low.includes(text) ? 2 : -1;
  };
  for (const n of whole.model.nodes) {
    const own = Math.max(rank(n.node), 0);
    const best = rank(n.node) >= 0 ? own : rank(n.place);
    if (best >= 0) ranked.push([best, { words: n.node, more: n.place || "joint", go: () => onJoint(n.node) }]);
  }
  for (const m of whole.model.members) {
    const best = rank(m.member);
    if (best >= 0)
      ranked.push([best, { words: m.member, more: `${m.role} ${m.section}`, go: () => onMember(m.member) }]);
  }
  for (const c of whole.model.connections) {
    if (rank(c.connection) === 0)
      ranked.push([0, { words: c.connection, more: "connection", go: () => onJoint(c.joint) }]);
  }
  return ranked
    .sort((a, b) => a[0] - b[0])
    .slice(0, MOST)
    .map(([, one]) => one);
}

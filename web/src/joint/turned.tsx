import { type KeyboardEvent, type ReactNode, useRef, useState } from "react";
import type * as THREE from "three";
import type { JointSolids } from "../api/types";
import { SCALE } from "../model/colours";
import { CollisionList } from "../parts/collision-list";
import { type Body, UNUSED } from "./bodies";
import { JointSpace, type Shown, type Turning } from "./space";
import { nextOnly, Tools } from "./tools";

const TURN = 0.12; // rad for a key
const PLAIN: Shown = { colouring: "kind", apart: 0, cut: null, only: "", measuring: false };

/** A joint in 3D as one turns it: by mouse and keys, cut, drawn apart, measured; `beside` stands what is said of the piece
 *  that is picked. */
export function Turned({
  joint,
  bodies,
  part,
  setPart,
  beside,
  onChoose,
}: {
  joint: JointSolids;
  bodies: Body[];
  part: string;
  setPart: (part: string) => void;
  beside: (picked: Body) => ReactNode;
  onChoose?: () => void;
}) {
  const [shown, setShown] = useState(PLAIN);
  const [pick, setPick] = useState("");
  const [ends, setEnds] = useState<THREE.Vector3[]>([]);
  const turning = useRef<Turning>(null);
  const own = bodies.filter((b) => b.own);
  const picked = bodies.find((b) => b.key === pick) ?? (part ? own.find((b) => b.part === part) : undefined);
  const choose = (body?: Body) => {
    setPick(body?.key ?? "");
    setPart(body?.own ? body.part : "");
    onChoose?.();
  };
  const step = (by: number) => {
    const at = picked ? own.indexOf(picked) : by > 0 ? -1 : 0;
    choose(own[(at + by + own.length) % own.length]);
  };
  const keys: Record<string, () => void> = {
    ArrowLeft: () => turning.current?.turn(-TURN, 0),
    ArrowRight: () => turning.current?.turn(TURN, 0),
    ArrowUp: () => turning.current?.turn(0, -TURN),
    ArrowDown: () => turning.current?.turn(0, TURN),
    "+": () => turning.current?.nearer(0.85),
    "-": () => turning.current?.nearer(1.18),
    Home: () => turning.current?.home(),
    n: () => step(1),
    p: () => step(-1),
    i: () => setShown({ ...shown, only: nextOnly(shown.only) }),
    u: () => setShown({ ...shown, colouring: shown.colouring === "kind" ? "utilisation" : "kind" }),
    e: () => setShown({ ...shown, apart: shown.apart ? 0 : 0.8 }),
    c: () => setShown({ ...shown, cut: shown.cut ? null : { axis: "z", at: 0 } }),
    m: () => setShown({ ...shown, measuring: !shown.measuring }),
    Escape: () => {
      choose();
      setEnds([]);
      setShown(PLAIN);
    },
  };
  const press = (event: KeyboardEvent) => {
    const act = keys[event.key] ?? keys[event.key.toLowerCase()];
    if (!act || event.ctrlKey || event.metaKey || event.altKey || event.target !== event.currentTarget) return;
    event.preventDefault();
    act();
  };
  const measure = (at: THREE.Vector3) => setEnds(ends.length === 1 ? [ends[0], at] : [at]);
  return (
    <div className="@container flex min-h-0 flex-1 flex-col">
      <Tools shown={shown} setShown={setShown} onHome={() => turning.current?.home()} />
      <div className="flex min-h-0 flex-1 flex-col @3xl:flex-row">
        <div className="flex min-h-0 min-w-0 flex-1 flex-col">
          <div
            className="relative min-h-0 flex-1 focus-visible:outline-2 focus-visible:outline-brass-dark"
            // biome-ignore lint/a11y/noNoninteractiveTabindex: keys turn it
            tabIndex={0}
            role="application"
            aria-label={`Joint ${joint.joint} in 3D. Arrows turn, plus and minus go nearer and away, N and P pick the next and the previous piece.`}
            onKeyDown={press}
            data-bodies={bodies.length}
            data-picked={picked?.key ?? ""}
          >
            <JointSpace
              joint={joint}
              bodies={bodies}
              shown={shown}
              picked={picked?.key ?? ""}
              ends={shown.measuring ? ends : []}
              onPick={choose}
              onMeasure={measure}
              turning={turning}
            />
            <p className="pointer-events-none absolute bottom-1 left-2 text-xs text-faint">
              {shown.measuring
                ? "click two corners"
                : "drag to turn · wheel to go nearer · click a piece · N next piece"}
            </p>
          </div>
          {shown.colouring === "utilisation" && <Legend />}
          {joint.collisions.length > 0 && (
            <CollisionList
              of={joint.collisions}
              label="Collisions"
              className="max-h-28 overflow-y-auto border-t border-line bg-sheet px-3 py-1"
            />
          )}
        </div>
        {picked && beside(picked)}
      </div>
    </div>
  );
}

/** What the colours of utilisation say. */
function Legend() {
  return (
    <p className="flex flex-wrap gap-x-3 border-t border-line bg-sheet px-3 py-1 text-xs">
      {SCALE.map(({ colour, words }) => (
        <span key={words} className="flex items-center gap-1">
          <span className="inline-block size-2.5 rounded-sm" style={{ background: colour }} /> {words}
        </span>
      ))}
      <span className="flex items-center gap-1">
        <span className="inline-block size-2.5 rounded-sm" style={{ background: UNUSED }} /> no check of its own
      </span>
    </p>
  );
}

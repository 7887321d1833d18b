import { Box, Expand, House, Palette, Ruler, Scissors } from "lucide-react";
import type { ReactNode } from "react";
import type { Cut, Shown } from "./space";

const CUTS = ["x", "y", "z"] as const;
const WORDS = { x: "along x", y: "along y", z: "from above" };
const STEP = "flex items-center gap-1 rounded border px-1.5 py-0.5 text-xs hover:bg-paper";

/** What to see of the joint, and how. */
export function Tools({
  shown,
  setShown,
  onHome,
}: {
  shown: Shown;
  setShown: (shown: Shown) => void;
  onHome: () => void;
}) {
  const cut = (next: Cut) => setShown({ ...shown, cut: next });
  return (
    <div
      className="flex flex-wrap items-center gap-1 border-b border-line bg-sheet px-2 py-1"
      role="toolbar"
      aria-label="The joint in 3D"
    >
      <Tool words="Home" about="as it was seen first (Home)" onPress={onHome}>
        <House size={13} />
      </Tool>
      <Tool
        words={shown.only === "connection" ? "This connection" : shown.only === "piece" ? "This piece" : "Whole joint"}
        about="the whole joint, this connection alone, or the piece alone (I)"
        on={shown.only !== ""}
        onPress={() => setShown({ ...shown, only: nextOnly(shown.only) })}
      >
        <Box size={13} />
      </Tool>
      <Tool
        words={shown.colouring === "kind" ? "By kind" : "By utilisation"}
        about="coloured by what a piece is, or how far its checks use it (U)"
        on={shown.colouring === "utilisation"}
        onPress={() => setShown({ ...shown, colouring: shown.colouring === "kind" ? "utilisation" : "kind" })}
      >
        <Palette size={13} />
      </Tool>
      <Tool
        words="Measure"
        about="between two corners (M)"
        on={shown.measuring}
        onPress={() => setShown({ ...shown, measuring: !shown.measuring })}
      >
        <Ruler size={13} />
      </Tool>
      <Tool
        words="Cut"
        about="open (C)"
        on={shown.cut !== null}
        onPress={() => cut(shown.cut ? null : { axis: "z", at: 0 })}
      >
        <Scissors size={13} />
      </Tool>
      {shown.cut && (
        <>
          <button type="button" className={`${STEP} border-line`} onClick={() => cut(turned(shown.cut))}>
            {WORDS[shown.cut.axis]}
          </button>
          <Slide
            words="Where it is cut"
            low={-1}
            value={shown.cut.at}
            onChange={(at) => shown.cut && cut({ ...shown.cut, at })}
          />
        </>
      )}
      <Tool
        words="Apart"
        about="drawn apart (E)"
        on={shown.apart > 0}
        onPress={() => setShown({ ...shown, apart: shown.apart ? 0 : 0.8 })}
      >
        <Expand size={13} />
      </Tool>
      {shown.apart > 0 && (
        <Slide
          words="How far apart"
          low={0.1}
          high={2}
          value={shown.apart}
          onChange={(apart) => setShown({ ...shown, apart })}
        />
      )}
    </div>
  );
}

export const nextOnly = (only: string) => (only === "" ? "connection" : only === "connection" ? "piece" : "");

function turned(cut: Cut): Cut {
  return cut && { ...cut, axis: CUTS[(CUTS.indexOf(cut.axis) + 1) % CUTS.length] };
}

function Tool({
  words,
  about,
  on,
  onPress,
  children,
}: {
  words: string;
  about: string;
  on?: boolean;
  onPress: () => void;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      className={`${STEP} ${on ? "border-brass-dark bg-brass/20" : "border-line"}`}
      title={`${words}: ${about}`}
      aria-pressed={on}
      onClick={onPress}
    >
      {children} {words}
    </button>
  );
}

function Slide({
  words,
  low,
  high = 1,
  value,
  onChange,
}: {
  words: string;
  low: number;
  high?: number;
  value: number;
  onChange: (value: number) => void;
}) {
  return (
    <input
      type="range"
      className="w-24"
      aria-label={words}
      min={low}
      max={high}
      step={0.02}
      value={value}
      onChange={(e) => onChange(Number(e.target.value))}
    />
  );
}

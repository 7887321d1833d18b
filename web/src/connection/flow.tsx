import type { Figures } from "../api/types";
import { amount } from "../words";
import { PRESSED, PULLED, type System, type Used } from "./used";

const HALF = 30; // px of the longest bar
const SHEAR = "shear";

/** What each part of a splice takes in one combination: a bar to the right pulls, to the left presses; shear is hatched, as it acts. */
export function Flow({ figures, used, system }: { figures: Figures; used: Used; system: System }) {
  const most = Math.max(...figures.combinations.flatMap((c) => (c.flow ?? []).map((f) => Math.abs(f.force))), 1e-6);
  return (
    <table className="h-fit text-xs">
      <caption className="pb-1 text-left font-semibold">What the parts take in {used.action}</caption>
      <thead>
        <tr className="border-b border-line text-left text-faint">
          <th className="pr-3 font-semibold">Part</th>
          <th className="pr-2 text-right font-semibold">force</th>
          <th className="font-semibold">− | +</th>
        </tr>
      </thead>
      <tbody>
        {(used.flow ?? []).map(({ part, force }) => {
          const long = (Math.abs(force) / most) * HALF;
          const sheared = part.includes(SHEAR);
          return (
            <tr key={part} className="border-b border-line/60">
              <td className="whitespace-nowrap py-0.5 pr-3">{part}</td>
              <td className="whitespace-nowrap pr-2 text-right">{amount(force, "kN", system)}</td>
              <td>
                <svg width={2 * HALF + 2} height={12} aria-hidden="true">
                  <line x1={HALF + 1} x2={HALF + 1} y1={0} y2={12} stroke="#9aa5a0" />
                  <rect
                    x={force > 0 ? HALF + 1 : HALF + 1 - long}
                    y={3}
                    width={long}
                    height={6}
                    fill={sheared ? "#9aa5a0" : force > 0 ? PULLED : PRESSED}
                  />
                </svg>
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

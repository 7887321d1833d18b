import type { Figures } from "../api/types";
import type { Place } from "../drawing/scene-view";
import { amount } from "../words";
import { PRESSED, PULLED, type System, type Used } from "./used";

/** Over the plan: the pressed part of the plate, and each rod that pulls with how much. */
export function Pressed({
  figures,
  used,
  place,
  system,
}: {
  figures: Figures;
  used: Used;
  place: Place;
  system: System;
}) {
  if (!used.base) return null;
  const { zone, pulls } = used.base;
  return (
    <g pointerEvents="none">
      {zone.length > 2 && (
        <polygon
          points={zone.map(([x, y]) => `${place.x(x)},${place.y(y)}`).join(" ")}
          fill={PRESSED}
          fillOpacity={0.22}
          stroke={PRESSED}
          strokeDasharray="4 3"
        />
      )}
      {figures.rods.map(({ name, at: [x, y] }, k) =>
        pulls[k] > 0.005 ? (
          <circle key={name} cx={place.x(x)} cy={place.y(y)} r={7} fill="none" stroke={PULLED} strokeWidth={2.2}>
            <title>{`${name} pulls ${amount(pulls[k], "kN", system)}`}</title>
          </circle>
        ) : null,
      )}
    </g>
  );
}

/** What each anchor takes in one combination. */
export function Rods({ figures, used, system }: { figures: Figures; used: Used; system: System }) {
  const { pulls, shears } = used.base ?? { pulls: [], shears: [] };
  return (
    <table className="h-fit text-xs">
      <caption className="pb-1 text-left font-semibold">Anchors in {used.action}</caption>
      <thead>
        <tr className="border-b border-line text-left text-faint">
          <th className="pr-4 font-semibold">Anchor</th>
          <th className="pr-4 text-right font-semibold">pulls</th>
          <th className="text-right font-semibold">shears</th>
        </tr>
      </thead>
      <tbody>
        {figures.rods.map(({ name }, k) => (
          <tr key={name} className="border-b border-line/60">
            <td className="py-0.5">{name}</td>
            <td className="pr-4 text-right">{pulls[k] > 0.005 ? amount(pulls[k], "kN", system) : "–"}</td>
            <td className="text-right">{shears[k] > 0.005 ? amount(shears[k], "kN", system) : "–"}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

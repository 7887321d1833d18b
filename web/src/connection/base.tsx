import type { Figures } from "../api/types";
import type { Place } from "../drawing/scene-view";
import { amount } from "../words";
import { PRESSED, PULLED, SHEARED, type System, type Used } from "./used";

type Surface = NonNullable<Used["base"]>["breaks"][number];

interface Shown {
  figures: Figures;
  used: Used;
  place: Place;
  system: System;
}

/** What one combination does, over the plan or over what breaks out. */
export function OverBase({ view, ...shown }: Shown & { view: string }) {
  if (view.startsWith("Plan")) return <Pressed {...shown} />;
  return view.startsWith("Breakout") ? <BreaksOut {...shown} /> : null;
}

/** Each surface along which the concrete may break out in this combination, and the rods that pull or shear. */
function BreaksOut({ figures, used, place }: Shown) {
  if (!used.base) return null;
  const { breaks, pulls, shears } = used.base;
  return (
    <g pointerEvents="none">
      {breaks.map((surface) => (
        <path
          key={words(surface)}
          d={surface.lines
            .map(([a, b]) => `M${place.x(a[0])},${place.y(a[1])}L${place.x(b[0])},${place.y(b[1])}`)
            .join("")}
          stroke={surface.kind === "tension" ? PULLED : SHEARED}
          strokeWidth={1.8}
          strokeDasharray={surface.barred ? "2 3" : undefined}
          fill="none"
        />
      ))}
      {figures.rods.map(({ name, at: [x, y] }, k) => {
        const does = [pulls[k] > NONE && "pulls", shears[k] > NONE && "shears"].filter(Boolean).join(", ");
        return does ? (
          <text
            key={name}
            x={place.x(x) + 6}
            y={place.y(y) - 5}
            fontSize={10}
            fontWeight={600}
            stroke="#ffffff"
            strokeWidth={3}
            paintOrder="stroke"
            fill={pulls[k] > NONE ? PULLED : SHEARED}
          >
            {name} {does}
          </text>
        ) : null;
      })}
    </g>
  );
}

const NONE = 0.005; // kN
const SIDES: Record<string, string> = {
  "-x": "minus along",
  "+x": "plus along",
  "-y": "minus across",
  "+y": "plus across",
};

function words({ kind, rods, side }: Surface) {
  return kind === "tension" ? `about ${rods.join(", ")}` : `${SIDES[side]}, with ${rods.join(", ")}`;
}

/** What may break out of the concrete in one combination. */
export function Breakouts({ used }: { used: Used }) {
  const breaks = used.base?.breaks ?? [];
  if (!breaks.length) return null;
  return (
    <table className="h-fit text-xs">
      <caption className="pb-1 text-left font-semibold">Concrete breaks out in {used.action}</caption>
      <thead>
        <tr className="border-b border-line text-left text-faint">
          <th className="pr-4 font-semibold">in</th>
          <th className="pr-4 font-semibold">where</th>
          <th className="pr-4 text-right font-semibold">concrete used</th>
          <th className="font-semibold">held by</th>
        </tr>
      </thead>
      <tbody>
        {breaks.map((surface) => (
          <tr key={words(surface)} className="border-b border-line/60">
            <td className="py-0.5 pr-4" style={{ color: surface.kind === "tension" ? PULLED : SHEARED }}>
              {surface.kind}
            </td>
            <td className="pr-4">{words(surface)}</td>
            <td className="pr-4 text-right">{surface.use.toFixed(2)}</td>
            <td>{surface.barred ? "bars" : "concrete"}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Over the plan: the pressed part of the plate, and each rod that pulls with how much. */
function Pressed({ figures, used, place, system }: Shown) {
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
        pulls[k] > NONE ? (
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
            <td className="pr-4 text-right">{pulls[k] > NONE ? amount(pulls[k], "kN", system) : "–"}</td>
            <td className="text-right">{shears[k] > NONE ? amount(shears[k], "kN", system) : "–"}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

import type { WhyRule } from "../api/types";
import { plain, sentence } from "../words";

/** The rules that a connection met, up to the one that took it, each with what it asked that the connection has not. */
export function Met({ why }: { why: WhyRule }) {
  return (
    <ol aria-label="Rules that it met" className="space-y-1">
      {why.met.map((met) => (
        <li key={`${met.origin} ${met.rule}`}>
          <span className={met.took ? "font-semibold text-pass" : "text-faint"}>
            {met.took ? "✓ taken by" : "✕ passed by"}
          </span>{" "}
          <span className={met.took ? "font-semibold" : ""}>{met.rule}</span>{" "}
          <span className="text-faint">
            {met.origin ? `of ${met.origin}` : ""} line {met.line}
            {met.took && met.note ? `: ${met.note}` : ""}
          </span>
          {met.failing.map((one) => (
            <span key={one.asked} className="block pl-4">
              asks <code>{one.asked}</code>, has <code>{one.has}</code>
            </span>
          ))}
        </li>
      ))}
      {why.also
        .filter((layer) => layer.took)
        .map((layer) => (
          <li key={`also ${layer.rule}`}>
            <span className="font-semibold text-pass">+ also</span> <span className="font-semibold">{layer.rule}</span>{" "}
            <span className="text-faint">
              {layer.origin ? `of ${layer.origin}` : ""} line {layer.line}: {layer.adds}
              {layer.note ? ` (${layer.note})` : ""}
            </span>
          </li>
        ))}
      {why.target < 1 && <li className="text-faint">target utilisation {why.target}</li>}
      {!why.rule && <li className="text-unassigned">○ {why.reason || "no rule takes it"}</li>}
      {why.chosen && (
        <li>
          standard {plain(why.standard)}: {why.chosen}
        </li>
      )}
      {why.rule && why.reason && <li className="text-unchecked">? {sentence(why.reason)}</li>}
    </ol>
  );
}

/** Where each size comes from, with what its formula works with. */
export function Sources({ why }: { why: WhyRule }) {
  const shown = why.sizes.filter((size) => !["default", "geometry"].includes(size.source));
  if (!shown.length) return null;
  return (
    <table aria-label="Where sizes come from" className="w-full">
      <tbody>
        {shown.map((size) => (
          <tr key={size.parameter} className="border-b border-line/60 align-top">
            <td className="py-0.5 pr-2">{plain(size.parameter)}</td>
            <td className="py-0.5 pr-2 font-semibold">{size.text}</td>
            <td className="py-0.5 text-faint">
              {size.source}
              {size.formula && (
                <span className="block break-all">
                  <code>{size.formula.length > 120 ? `${size.formula.slice(0, 120)} …` : size.formula}</code>
                  {Object.keys(size.values).length > 0 &&
                    ` with ${Object.entries(size.values)
                      .map(([name, value]) => `${name} ${value}`)
                      .join(", ")}`}
                </span>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

import type { Connection } from "../api/types";
import { amount } from "../words";

const MEANING: Record<string, string> = {
  N: "axial, tension positive",
  V: "shear along the web, up positive",
  Vw: "shear across the web, to the right positive, seen from the support",
  M: "strong axis moment, top in tension positive",
  Mw: "weak axis moment, right side in tension positive, seen from the support",
  T: "torsion, counter-clockwise positive, seen from the support",
};

/** The largest and smallest of each action; `whole` says each in words, with its combination. */
export function Forces({ data, whole = false }: { data: Connection; whole?: boolean }) {
  return (
    <table className={whole ? "w-full" : "m-2 h-fit flex-1 text-xs"}>
      <caption className="sr-only">End forces</caption>
      <thead>
        <tr className="border-b border-line text-left text-xs text-faint">
          <th className="py-1 font-semibold">Action</th>
          <th className="text-right font-semibold">largest</th>
          {whole && <th className="pl-3 font-semibold">in</th>}
          <th className="text-right font-semibold">smallest</th>
          {whole && <th className="pl-3 font-semibold">in</th>}
        </tr>
      </thead>
      <tbody>
        {data.peaks.map((peak) => (
          <tr key={peak.action} className={whole ? "border-b border-line/60" : peak.carried ? "" : "text-faint"}>
            <td className="py-0.5" title={peak.carried || whole ? MEANING[peak.action] : "not carried by the standard"}>
              {peak.action}
              {whole && <span className="pl-2 text-faint">{MEANING[peak.action]}</span>}
            </td>
            <td className="whitespace-nowrap pl-3 text-right" title={peak.max_in}>
              {amount(peak.max, peak.unit, data.system)}
            </td>
            {whole && <td className="pl-3 text-xs text-faint">{peak.max_in}</td>}
            <td className="whitespace-nowrap pl-3 text-right" title={peak.min_in}>
              {amount(peak.min, peak.unit, data.system)}
            </td>
            {whole && <td className="pl-3 text-xs text-faint">{peak.min_in}</td>}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

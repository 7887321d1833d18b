import type { Connection } from "../api/types";
import { figure, plain } from "../words";

/** Counts as they are, sizes with their digits. */
const shown = (value: number, unit: string) =>
  !unit && Number.isInteger(value) ? String(value) : `${figure(value)} ${unit}`;

/** Collisions are told by themselves. */
const ruled = (rule: Connection["detailing"][number]) => rule.rule !== "collision";

/** Each detailing rule with what is given and what is needed. */
export function Detailing({ data }: { data: Connection }) {
  return (
    <table className="w-full">
      <thead>
        <tr className="text-left text-xs text-faint">
          {["Rule", "Part", "Given", "Needed", "Holds"].map((name) => (
            <th key={name} className="px-4 py-1.5 font-semibold">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {data.detailing.filter(ruled).map((rule) => (
          <tr key={`${rule.rule}${rule.part}${rule.says}`} className="border-t border-line/60">
            <td className="px-4 py-1">
              {plain(rule.rule)} <span className="text-xs text-faint">{rule.clause}</span>
            </td>
            <td className="px-4">{rule.part}</td>
            {rule.says ? (
              <td className="px-4" colSpan={2}>
                {rule.says}
              </td>
            ) : (
              <>
                <td className="px-4">{shown(rule.given, rule.unit)}</td>
                <td className="px-4">
                  {rule.sense} {shown(rule.limit, rule.unit)}
                </td>
              </>
            )}
            <td className={`px-4 font-medium ${rule.ok ? "text-pass" : "text-fail"}`}>
              {rule.ok ? "✓ yes" : "✕ broken"}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

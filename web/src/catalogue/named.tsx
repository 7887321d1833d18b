import { useState } from "react";
import { useNamed } from "../api/catalogue";
import { INCH, KSI, POUND } from "../units";

const POUNDS_A_FOOT = POUND / 0.3048; // kg/m
const ksi = (stress: number) => Math.round(stress / KSI);

/** What can be named now, shipped or the house's own, by a part of its name. */
export function Named() {
  const [text, setText] = useState("");
  const { data } = useNamed(text);
  return (
    <section aria-label="What can be named" className="text-xs">
      <h2 className="font-semibold">What can be named</h2>
      <p className="text-faint">Sections and grades of the shipped tables, and the house’s own of all jobs.</p>
      <input
        aria-label="Find a section or a grade"
        placeholder="W16, HSS8, A572 …"
        className="my-2 w-full rounded border border-line bg-white px-2 py-1"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {text.trim() && data && (
        <table className="w-full">
          <tbody>
            {data.grades.map((grade) => (
              <tr key={grade.name} className="border-b border-line/60">
                <td className="py-0.5 font-semibold">{grade.name}</td>
                <td className="text-right">
                  Fy {ksi(grade.Fy)}, Fu {ksi(grade.Fu)} ksi; {Math.round(grade.Fy)}, {Math.round(grade.Fu)} MPa
                </td>
              </tr>
            ))}
            {data.items.map((section) => (
              <tr key={section.name} className="border-b border-line/60">
                <td className="py-0.5 font-semibold">{section.name}</td>
                <td className="text-right">
                  {(section.d / INCH).toFixed(1)} in, {(section.mass / POUNDS_A_FOOT).toFixed(0)} lb/ft;{" "}
                  {Math.round(section.d)} mm, {section.mass.toFixed(0)} kg/m
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {text.trim() && data && data.total > data.items.length && (
        <p className="text-faint">and {data.total - data.items.length} sections more</p>
      )}
      {text.trim() && data && data.total + data.grades.length === 0 && <p className="text-faint">nothing like that</p>}
    </section>
  );
}

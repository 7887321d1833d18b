import { useState } from "react";
import { useProfiles } from "../api/profiles";
import { Choice } from "../parts/choice";
import { BUTTON, FIELD } from "../parts/dialog";
import { useFile } from "../parts/download";
import { Printing } from "./printing";

export const SECTIONS = [
  "drawing",
  "picture",
  "places",
  "sizes",
  "cases",
  "actions",
  "checks",
  "combinations",
  "lines",
  "detailing",
  "decisions",
];
const LINES = [
  { value: "governing", words: "worked lines of what governs" },
  { value: "all", words: "all worked lines" },
  { value: "none", words: "no worked lines" },
];
const EACH = [
  { value: "", words: "a calculation a mark" },
  { value: "true", words: "a calculation a connection" },
];

/** Calculations as they are wanted: of what, with which sections; the choice kept as a profile of the house. */
export function Calculations({ job, admin }: { job: string; admin: boolean }) {
  const { data: profiles = [] } = useProfiles();
  const [profile, setProfile] = useState("");
  const [chosen, setChosen] = useState<string[] | undefined>();
  const [worked, setWorked] = useState("");
  const [where, setWhere] = useState("");
  const [each, setEach] = useState("");
  const [get, why] = useFile();
  const own = profiles.find((one) => one.name === (profile || "usual"));
  const sections = chosen ?? (own?.sections.length ? own.sections : SECTIONS);
  const lines = worked || own?.lines || "governing";
  const flip = (name: string) =>
    setChosen(SECTIONS.filter((one) => (one === name ? !sections.includes(one) : sections.includes(one))));
  const file = (kind: string) => {
    const asked = { profile, sections: sections.join(","), lines, where: where.trim(), each };
    const said = Object.entries(asked).filter(([, value]) => value);
    get(`/api/v1/jobs/${encodeURIComponent(job)}/calculations.${kind}?${new URLSearchParams(said)}`);
  };
  return (
    <section aria-label="Calculations" className="mt-5 rounded bg-sheet p-4">
      <div className="flex flex-wrap items-center gap-2">
        <h2 className="mr-2 font-semibold">Calculations</h2>
        {profiles.length > 0 && (
          <Choice
            label="Profile of the house"
            value={profile}
            options={[
              { value: "", words: "as the house prints usually" },
              ...profiles.filter((one) => one.name !== "usual").map((one) => ({ value: one.name, words: one.name })),
            ]}
            onChange={(name) => {
              setProfile(name);
              setChosen(undefined);
              setWorked("");
            }}
          />
        )}
        <Choice label="A calculation of" value={each} options={EACH} onChange={setEach} />
        <Choice label="Worked lines" value={lines} options={LINES} onChange={setWorked} />
        <span className="w-60">
          <input
            aria-label="Filter of the calculations"
            className={`${FIELD} mt-0`}
            value={where}
            onChange={(event) => setWhere(event.target.value)}
            placeholder="of all; or level=2"
            spellCheck={false}
          />
        </span>
        {["pdf", "docx"].map((kind) => (
          <button key={kind} type="button" className={BUTTON} disabled={!sections.length} onClick={() => file(kind)}>
            {kind === "pdf" ? "PDF" : "Word processor"}
          </button>
        ))}
        {admin && <Printing own={own} name={profile || "usual"} sections={sections} lines={lines} />}
      </div>
      <fieldset className="mt-3 flex flex-wrap gap-x-4 gap-y-1" aria-label="Sections">
        {SECTIONS.map((name) => (
          <label key={name} className="flex gap-1.5">
            <input type="checkbox" checked={sections.includes(name)} onChange={() => flip(name)} /> {name}
          </label>
        ))}
      </fieldset>
      {why}
    </section>
  );
}

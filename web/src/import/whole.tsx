import { Choice } from "../parts/choice";
import { type Change, type Pointing, unitsOf } from "./map-shape";

const UPS = ["Z", "Y"].map((value) => ({ value, words: `${value} is up` }));
const SENSES = [
  { value: "internal", words: "the section's, tension +" },
  { value: "on_member", words: "the node's on the member" },
];
const UNITS = ["length", "section", "force", "moment", "stress"];

const TRIED = ["forces", "up", "vertical_y"];

/** Why a map states something: what stands behind it in the text, where that is a figure. */
function reason(text: string, name: string): string {
  const line = text.split("\n").find((own) => own.startsWith(`${name} = `)) ?? "";
  const why = line.slice(line.indexOf("#") + 1).trim();
  return line.includes("#") && /\d/.test(why) ? why : "";
}

/** What is stated of the whole: which way is up, what end forces are, the job's units. Each can be looked up in the text, where its reason stands. */
export function WholeOfIt({
  pointing,
  text,
  change,
}: {
  pointing: Pointing;
  text: string;
  change: (one: Change) => void;
}) {
  const {
    up = "",
    forces = "",
    units = {},
  } = pointing.stated as { up?: string; forces?: string; units?: Record<string, string> };
  const choices = unitsOf(pointing);
  const asked = (value: string) => (value === "?" || !value ? "border-fail" : "");
  const open = (value: string, options: { value: string; words: string }[]) =>
    options.some((o) => o.value === value)
      ? options
      : [{ value, words: value === "?" ? "? choose" : value || "choose" }, ...options];
  return (
    <section aria-label="The whole" className="flex flex-wrap items-center gap-2">
      <Choice
        label="Up"
        value={up}
        className={asked(up)}
        options={open(up, UPS)}
        onChange={(value) => change({ what: "state", name: "up", value })}
      />
      <span className="text-faint">end forces are</span>
      <Choice
        label="End forces"
        value={forces}
        className={asked(forces)}
        options={open(forces, SENSES)}
        onChange={(value) => change({ what: "state", name: "forces", value })}
      />
      <button
        type="button"
        className="rounded border border-line px-2 py-1"
        title="Put each answer to statics and take the one that closes: up, what end forces are, signs"
        onClick={() => change({ what: "try" })}
      >
        Try
      </button>
      {UNITS.filter((kind) => kind !== "stress" || units.stress).map((kind) => {
        const value = units[kind] ?? "";
        const options = (choices[kind === "section" ? "length" : kind] ?? []).map((u) => ({ value: u, words: u }));
        return (
          <span key={kind} className="flex items-center gap-1">
            <span className="text-faint">{kind === "section" ? "sections" : kind}</span>
            <Choice
              label={`Unit of ${kind}`}
              value={value}
              className={asked(value)}
              options={open(value, options)}
              onChange={(unit) => change({ what: "unit", name: kind, value: unit })}
            />
          </span>
        );
      })}
      {TRIED.map((name) => {
        const why = reason(text, name);
        return (
          why && (
            <p key={name} className="w-full text-xs text-faint">
              <b>{name.replace("_", " ")}</b> {why}
            </p>
          )
        );
      })}
    </section>
  );
}

import { type Form, useGrades } from "../api/bench";
import { useStandards } from "../api/changes";
import { Choice } from "../parts/choice";
import { Field, Listed, SectionField } from "./fields";
import { FRAMINGS, type Member, mapping, withEntry, withFraming } from "./form";
import { Picture } from "./pictures";

const SIDES: Record<string, [supported: string, support: string]> = {
  beam_splice: ["Beam, at its j side", "Beam, at its i side"],
  column_splice: ["Upper column", "Lower column"],
  beam_to_girder: ["Beam", "Girder"],
};

/** What meets what: framing and standard, sections and grades, how they meet, what it stands on. */
export function Where({ form, change }: { form: Form; change: (form: Form) => void }) {
  const { data: standards } = useStandards();
  const { data: grades = [] } = useGrades();
  const framing = String(form.framing);
  const bent = FRAMINGS[framing]?.bent ?? false;
  const going = (of: string) => (standards?.items ?? []).filter((one) => one.framings.includes(of));
  const [first, second] = SIDES[framing] ?? (framing === "column_base" ? ["Column", ""] : ["Beam", "Column"]);
  const member = (role: "supported" | "support", label: string) => {
    const own = mapping(form, role) as unknown as Partial<Member>;
    return (
      <div className="grid grid-cols-[1fr_90px] gap-2">
        <SectionField
          label={label}
          value={own.section ?? ""}
          set={(section) => change({ ...form, [role]: { ...own, section } })}
        />
        <Listed
          label="Grade"
          value={own.grade ?? ""}
          options={grades}
          set={(grade) => change({ ...form, [role]: { ...own, grade } })}
        />
      </div>
    );
  };
  const geometry = (name: string, label: string, title: string) => (
    <Field
      label={label}
      title={title}
      value={String(mapping(form, "geometry")[name] ?? "")}
      placeholder="0"
      set={(value) => change(withEntry(form, "geometry", name, value))}
    />
  );
  return (
    <div className="space-y-3">
      <fieldset className="grid grid-cols-4 gap-1" aria-label="Framing">
        {Object.entries(FRAMINGS).map(([name, { words }]) => (
          <button
            key={name}
            type="button"
            aria-pressed={name === framing}
            title={words}
            onClick={() =>
              change(
                withFraming(
                  form,
                  name,
                  going(name).map((one) => one.name),
                ),
              )
            }
            className={`flex flex-col items-center rounded border px-1 py-1 text-center text-[10px] leading-tight ${name === framing ? "border-brass bg-brass/15 font-semibold" : "border-line text-faint hover:bg-paper"}`}
          >
            <Picture framing={name} />
            {words}
          </button>
        ))}
      </fieldset>
      <div>
        <span className="text-xs text-faint">Standard</span>
        <Choice
          label="Standard"
          className="w-full"
          value={String(form.standard)}
          options={going(framing).map((one) => ({ value: one.name, words: one.title }))}
          onChange={(standard) => change({ ...form, standard, parameters: {} })}
        />
      </div>
      {member("supported", first)}
      {second && member("support", second)}
      {bent && (
        <div className="grid grid-cols-3 gap-2">
          {geometry("skew", "Skew", "How far it is off square in plan, like 8 deg")}
          {geometry("slope", "Slope", "How far it rises away from what it meets, like 5 deg")}
          {geometry("top_offset", "Top below", "How far its top of steel lies below its support's, like 1-1/2 in")}
        </div>
      )}
      {bent && (
        <label className="flex gap-2 text-xs">
          <input
            type="checkbox"
            checked={Boolean(mapping(form, "geometry").opposed)}
            onChange={(event) => change(withEntry(form, "geometry", "opposed", event.target.checked))}
          />
          a beam on the other side, too
        </label>
      )}
      {framing === "column_base" && <Foundation form={form} change={change} />}
      <div className="grid grid-cols-2 gap-2">
        <Listed
          label="Code"
          value={String(form.code ?? "")}
          options={["AISC 360-22", "AISC 360-16", "AISC 360-10"]}
          set={(code) => change({ ...form, code })}
        />
        <Listed
          label="Method"
          value={String(form.method ?? "")}
          options={["LRFD", "ASD"]}
          set={(method) => change({ ...form, method })}
        />
      </div>
    </div>
  );
}

function Foundation({ form, change }: { form: Form; change: (form: Form) => void }) {
  const own = mapping(form, "foundation");
  const edges = (own.edges ?? {}) as Record<string, (string | null)[] | undefined>;
  const edge = (way: "along" | "across", k: 0 | 1, label: string) => (
    <Field
      label={label}
      title="From the column's centre to the concrete's edge; blank where it is too far to count"
      value={edges[way]?.[k] ?? ""}
      set={(value) => {
        const pair = [...(edges[way] ?? [null, null])];
        pair[k] = value || null;
        const next = { ...edges, [way]: pair };
        for (const name of Object.keys(next)) if (next[name]?.every((one) => !one)) delete next[name];
        change(withEntry(form, "foundation", "edges", Object.keys(next).length ? next : ""));
      }}
    />
  );
  return (
    <fieldset className="space-y-2 rounded border border-line p-2" aria-label="Foundation">
      <div className="grid grid-cols-3 gap-2">
        <Listed
          label="Stands on"
          value={String(own.kind ?? "")}
          options={["pedestal", "footing", "slab"]}
          set={(kind) => change(withEntry(form, "foundation", "kind", kind))}
        />
        <Field label="f'c" value={String(own.fc ?? "")} set={(fc) => change(withEntry(form, "foundation", "fc", fc))} />
        <Field
          label="Thick"
          value={String(own.thickness ?? "")}
          set={(thickness) => change(withEntry(form, "foundation", "thickness", thickness))}
        />
      </div>
      <div className="grid grid-cols-4 gap-2">
        {edge("along", 0, "Edge, − along")}
        {edge("along", 1, "+ along")}
        {edge("across", 0, "− across")}
        {edge("across", 1, "+ across")}
      </div>
    </fieldset>
  );
}

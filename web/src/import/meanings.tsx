import { useState } from "react";
import { Choice } from "../parts/choice";
import { BUTTON, FIELD, Frame, PRIMARY } from "../parts/dialog";
import type { Spec, Use } from "./map-shape";

type Meant = Record<string, string>;

/** What each word of a column means: chosen where there are few meanings, else written. */
export function Meanings({ use, choices, say }: { use: Use; choices: string[]; say: (spec: Spec) => void }) {
  return (
    <Words
      given={use.spec.values as Meant}
      title={`What the words of ${use.columns.join(", ")} mean`}
      words={`Each as ${use.ours}; * stands for any text.`}
      choices={choices.length ? ["", "?", ...choices].map((c) => ({ value: c, words: c || "nothing" })) : []}
      say={(values) => say({ ...use.spec, values })}
    />
  );
}

/** How a support holds by each word of a column, in all six directions at once. */
export function Supports({
  uses,
  kinds,
  say,
}: {
  uses: Use[];
  kinds: Record<string, string>;
  say: (kinds: Meant) => void;
}) {
  const values = uses.map((use) => (use.spec.values ?? {}) as Meant);
  const given: Meant = {};
  for (const word of Object.keys(values[0])) {
    const marks = values.map((own) => own[word]).join("");
    given[word] = Object.keys(kinds).find((kind) => kinds[kind] === marks) ?? (marks.includes("?") ? "?" : marks);
  }
  const odd = [...new Set(Object.values(given))].filter((kind) => kind !== "?" && !(kind in kinds));
  return (
    <Words
      given={given}
      title={`How supports hold by the words of ${uses[0].columns.join(", ")}`}
      words="Pinned holds ux, uy and uz; fixed the rotations as well; a roller uz alone."
      choices={["?", ...Object.keys(kinds), ...odd].map((c) => ({ value: c, words: c }))}
      say={say}
    />
  );
}

function Words({
  given,
  title,
  words,
  choices,
  say,
}: {
  given: Meant;
  title: string;
  words: string;
  choices: { value: string; words: string }[];
  say: (meant: Meant) => void;
}) {
  const [open, setOpen] = useState(false);
  const [meant, setMeant] = useState(given);
  const all = Object.entries(given);
  const asked = all.filter(([, meaning]) => meaning === "?").length;
  return (
    <Frame
      trigger={asked ? `${asked} to say` : `${all.length} word${all.length > 1 ? "s" : ""}`}
      look={`rounded border px-1.5 ${asked ? "border-fail text-fail" : "border-line"}`}
      title={title}
      words={words}
      open={open}
      setOpen={(next) => {
        setMeant(given);
        setOpen(next);
      }}
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          say(meant);
          setOpen(false);
        }}
      >
        <div className="max-h-[55vh] space-y-1 overflow-y-auto">
          {all.map(([word]) => (
            <div key={word} className="grid grid-cols-2 items-center gap-2">
              <span className="truncate">{word || "(blank)"}</span>
              {choices.length ? (
                <Choice
                  label={`${word} means`}
                  value={meant[word] ?? ""}
                  options={choices}
                  onChange={(value) => setMeant({ ...meant, [word]: value })}
                />
              ) : (
                <input
                  aria-label={`${word} means`}
                  className={`${FIELD} mt-0`}
                  value={meant[word] ?? ""}
                  onChange={(event) => setMeant({ ...meant, [word]: event.target.value })}
                />
              )}
            </div>
          ))}
        </div>
        <div className="mt-4 flex justify-end gap-2">
          <button type="button" className={BUTTON} onClick={() => setOpen(false)}>
            Leave it
          </button>
          <button type="submit" className={PRIMARY}>
            Say so
          </button>
        </div>
      </form>
    </Frame>
  );
}

import { useState } from "react";
import { Choice } from "../parts/choice";
import { BUTTON, FIELD, Frame, PRIMARY } from "../parts/dialog";
import type { Spec, Use } from "./map-shape";

/** What each word of a column means: chosen where there are few meanings, else written. */
export function Meanings({ use, choices, say }: { use: Use; choices: string[]; say: (spec: Spec) => void }) {
  const given = use.spec.values as Record<string, string>;
  const [open, setOpen] = useState(false);
  const [meant, setMeant] = useState(given);
  const words = Object.entries(given);
  const asked = words.filter(([, meaning]) => meaning === "?").length;
  return (
    <Frame
      trigger={asked ? `${asked} to say` : `${words.length} word${words.length > 1 ? "s" : ""}`}
      look={`rounded border px-1.5 ${asked ? "border-fail text-fail" : "border-line"}`}
      title={`What the words of ${use.columns.join(", ")} mean`}
      words={`Each as ${use.ours}; * stands for any text.`}
      open={open}
      setOpen={(next) => {
        setMeant(given);
        setOpen(next);
      }}
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          say({ ...use.spec, values: meant });
          setOpen(false);
        }}
      >
        <div className="max-h-[55vh] space-y-1 overflow-y-auto">
          {words.map(([word]) => (
            <div key={word} className="grid grid-cols-2 items-center gap-2">
              <span className="truncate">{word || "(blank)"}</span>
              {choices.length ? (
                <Choice
                  label={`${word} means`}
                  value={meant[word] ?? ""}
                  options={["", "?", ...choices].map((c) => ({ value: c, words: c || "nothing" }))}
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

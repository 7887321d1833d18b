import { autocompletion, type CompletionContext, type CompletionResult } from "@codemirror/autocomplete";
import { yaml } from "@codemirror/lang-yaml";
import { type Diagnostic, lintGutter, setDiagnostics } from "@codemirror/lint";
import { EditorSelection } from "@codemirror/state";
import { EditorView } from "@codemirror/view";
import { basicSetup } from "codemirror";
import { useEffect, useRef } from "react";
import type { Mistake } from "../api/rules";
import type { Language } from "../api/types";

const LOOK = EditorView.theme({
  "&": { height: "100%", fontSize: "12px", backgroundColor: "white" },
  ".cm-scroller": { fontFamily: "var(--font-mono)", lineHeight: "1.55" },
  ".cm-gutters": { backgroundColor: "var(--color-paper)", color: "var(--color-faint)", border: "none" },
  ".cm-activeLine": { backgroundColor: "#f5f4ef99" },
  ".cm-tooltip": { backgroundColor: "var(--color-sheet)", border: "1px solid var(--color-line)" },
  ".cm-tooltip-autocomplete ul li[aria-selected]": { backgroundColor: "var(--color-rail)", color: "white" },
  "&.cm-focused": { outline: "2px solid var(--color-brass-dark)", outlineOffset: "-2px" },
});

/** The rulebook as text: mistakes at their lines, facts and parameters completed as one types. */
export function Editor({
  text,
  setText,
  mistakes,
  language,
  line,
  readOnly,
}: {
  text: string;
  setText: (text: string) => void;
  mistakes: Mistake[];
  language: Language | undefined;
  line: { at: number } | null;
  readOnly: boolean;
}) {
  const home = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const placing = useRef(false);
  const said = useRef({ setText, language, text });
  said.current = { setText, language, text };

  useEffect(() => {
    const made = new EditorView({
      parent: home.current as HTMLDivElement,
      doc: said.current.text,
      extensions: [
        basicSetup,
        yaml(),
        LOOK,
        EditorView.lineWrapping,
        lintGutter(),
        EditorView.editable.of(!readOnly),
        EditorView.contentAttributes.of({ "aria-label": "Rulebook" }),
        autocompletion({ override: [(context) => complete(context, said.current.language)] }),
        EditorView.updateListener.of((update) => {
          if (update.docChanged && !placing.current) said.current.setText(update.state.doc.toString());
        }),
      ],
    });
    made.scrollDOM.tabIndex = 0; // the keyboard scrolls it too
    view.current = made;
    return () => made.destroy();
  }, [readOnly]);

  useEffect(() => {
    const made = view.current;
    if (!made || made.state.doc.toString() === text) return;
    placing.current = true; // what comes from elsewhere is nobody's typing
    made.dispatch({ changes: { from: 0, to: made.state.doc.length, insert: text } });
    placing.current = false;
  }, [text]);

  useEffect(() => {
    const made = view.current;
    if (!made) return;
    const found = mistakes.map((one): Diagnostic => {
      const row = made.state.doc.line(Math.min(Math.max(one.line, 1), made.state.doc.lines));
      const from = Math.min(row.from + Math.max(one.column - 1, 0), row.to);
      return { from, to: Math.max(row.to, from), severity: "error", message: one.message };
    });
    made.dispatch(setDiagnostics(made.state, found));
  }, [mistakes]);

  useEffect(() => {
    const made = view.current;
    if (!made || !line || line.at > made.state.doc.lines) return;
    const row = made.state.doc.line(line.at);
    made.dispatch({
      selection: EditorSelection.cursor(row.from),
      effects: EditorView.scrollIntoView(row.from, { y: "start", yMargin: 40 }),
    });
    made.focus();
  }, [line]);

  return <div ref={home} className="min-h-0 flex-1 overflow-hidden rounded border border-line" />;
}

/** What can stand where one types: facts under `when`, parameters under `set` and practice, values of a fact, keys of a rule. */
function complete(context: CompletionContext, language: Language | undefined): CompletionResult | null {
  if (!language) return null;
  const row = context.state.doc.lineAt(context.pos);
  const before = row.text.slice(0, context.pos - row.from);
  const word = context.matchBefore(/[\w.@]*/);
  if (!word || (word.from === word.to && !context.explicit)) return null;
  const value = before.match(/([\w.@]+):\s*\[?[^:]*$/);
  const fact = value && language.facts.find((one) => one.name === value[1]);
  if (fact?.choices.length) return { from: word.from, options: fact.choices.map((label) => ({ label, type: "enum" })) };
  if (value?.[1] === "use")
    return { from: word.from, options: Object.keys(language.parameters).map((label) => ({ label, type: "class" })) };
  if (before.includes("="))
    return { from: word.from, options: language.functions.map((one) => ({ label: one.name, detail: one.help })) };
  if (/:\s/.test(before.split(/[{,]/).pop() ?? "")) return null; // a value that is free
  const inside = parent(context);
  const use = used(context);
  const parameters = use ? (language.parameters[use] ?? []) : [...new Set(Object.values(language.parameters).flat())];
  const options =
    inside === "when" || ["any", "all", "not"].includes(inside)
      ? [
          ...language.facts.map((one) => ({ label: one.name, detail: one.help, type: "property" })),
          ...language.keys.when.map((label) => ({ label, type: "keyword" })),
        ]
      : ["set", "practice", "ladder", "climb"].includes(inside)
        ? parameters.map((label) => ({ label, type: "property" }))
        : [...new Set([...language.keys.rule, ...language.keys.also, ...language.keys.rulebook])].map((label) => ({
            label,
            type: "keyword",
          }));
  return { from: word.from, options };
}

/** The key that the line stands under. */
function parent(context: CompletionContext): string {
  const { doc } = context.state;
  const row = doc.lineAt(context.pos);
  const inline = row.text.slice(0, context.pos - row.from).match(/(\w+):\s*\{[^}]*$/);
  if (inline) return inline[1];
  const own = row.text.search(/[^\s-]|$/);
  for (let number = row.number - 1; number > 0; number--) {
    const text = doc.line(number).text;
    const key = text.match(/^(\s*(?:- )?)(\w+):\s*(?:#.*)?$/);
    if (key && key[1].length < own) return key[2];
  }
  return "";
}

/** The standard of the rule that the line is in. */
function used(context: CompletionContext): string {
  const { doc } = context.state;
  const number = doc.lineAt(context.pos).number;
  for (let up = number; up > 0 && up > number - 40; up--) {
    const text = doc.line(up).text;
    const found = text.match(/\buse:\s*(\w+)/);
    if (found) return found[1];
    if (/^\s*- name:/.test(text) && up < number) break;
  }
  for (let down = number; down <= doc.lines && down < number + 40; down++) {
    const text = doc.line(down).text;
    if (/^\s*- name:/.test(text) && down > number) break;
    const found = text.match(/\buse:\s*(\w+)/);
    if (found) return found[1];
  }
  return "";
}

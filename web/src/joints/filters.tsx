import { Search } from "lucide-react";
import { type ReactNode, useEffect, useMemo, useRef } from "react";
import { useLocation } from "react-router";
import type { Row } from "../api/types";
import { FILTERS } from "../listing";
import { Choice } from "../parts/choice";
import { ORDER, OVER_TARGET, plain, REMARKED, STATUSES } from "../words";

interface Props {
  rows: Row[];
  shown: number;
  query: URLSearchParams;
  groups: string[];
  text: string;
  setText: (text: string) => void;
  set: (name: string, value: string) => void;
  children: ReactNode;
}

const BY = [
  ["level", "by level"],
  ["framing", "by framing"],
  ["status", "by status"],
  ["section", "by member"],
  ["standard", "by standard"],
  ["rule", "by rule"],
  ["sequence", "by sequence"],
  ["person", "by person"],
];

/** What is told apart beside the statuses. */
const FLAGS = [
  { name: "remarks", ...REMARKED, title: "They pass, and a remark asks something of a person" },
  { name: "over_target", ...OVER_TARGET, title: "They pass, and are used more than sizing aims at" },
  { name: "stale", word: "stale", mark: "⟳", colour: "#8a5600", title: "What they rest on was changed: run again" },
];

interface ChipProps {
  on: boolean;
  colour: string;
  title?: string;
  flip: () => void;
  children: ReactNode;
}

function Chip({ on, colour, title, flip, children }: ChipProps) {
  return (
    <button
      type="button"
      aria-pressed={on}
      title={title}
      onClick={flip}
      className={`rounded-full border px-2.5 py-0.5 ${on ? "border-current bg-white" : "border-line"}`}
      style={{ color: colour }}
    >
      {children}
    </button>
  );
}

/** How many stand how, and what of them is shown. */
export function Filters({ rows, shown, query, groups, text, setText, set, children }: Props) {
  const status = query.get("status") ?? "";
  const counts = useMemo(() => Map.groupBy(rows, (row) => row.status), [rows]);
  const flags = useMemo(
    () => FLAGS.map((flag) => ({ ...flag, rows: rows.filter((row) => FILTERS[flag.name](row, "1")).length })),
    [rows],
  );
  const offered = useMemo(() => choicesOf(rows, groups), [rows, groups]);
  const field = useRef<HTMLInputElement>(null);
  const { state } = useLocation();
  useEffect(() => {
    if (state?.find) field.current?.focus(); // the key "/" led here
  }, [state]);
  return (
    <>
      <header className="flex items-center gap-2 bg-sheet px-4 pt-2.5">
        <h1 className="mr-2 text-base font-semibold">Joints</h1>
        {ORDER.filter((name) => counts.get(name)).map((name) => (
          <Chip
            key={name}
            on={status === name}
            colour={STATUSES[name].colour}
            flip={() => set("status", status === name ? "" : name)}
          >
            {STATUSES[name].mark} {counts.get(name)?.length} {name}
          </Chip>
        ))}
        {flags
          .filter(({ rows }) => rows > 0)
          .map(({ name, rows, word, mark, colour, title }) => (
            <Chip
              key={name}
              on={query.get(name) === "1"}
              colour={colour}
              title={title}
              flip={() => set(name, query.get(name) ? "" : "1")}
            >
              {mark} {rows} {word}
            </Chip>
          ))}
        <label className="ml-auto flex items-center gap-1.5 rounded border border-line bg-white px-2 py-1">
          <Search size={13} className="text-faint" />
          <input
            ref={field}
            aria-label="Find"
            data-find
            placeholder="find a member, section, rule …"
            value={text}
            onChange={(event) => {
              setText(event.target.value);
              set("text", event.target.value);
            }}
            className="w-44 bg-transparent outline-none"
          />
        </label>
        <span className="w-24 text-right text-faint">
          {shown} of {rows.length}
        </span>
      </header>
      <div className="flex flex-wrap items-center gap-2 border-b border-line bg-sheet px-4 pb-2 pt-1.5">
        {offered.map(([name, label, options]) => (
          <Choice
            key={name}
            label={label}
            value={query.get(name) ?? ""}
            options={options}
            onChange={(value) => set(name, value)}
          />
        ))}
        <Choice
          label="Group rows"
          value={query.get("by") ?? ""}
          options={[{ value: "", words: "one list" }, ...BY.map(([value, words]) => ({ value, words }))]}
          onChange={(value) => set("by", value)}
        />
        <span className="ml-auto flex items-center gap-2">{children}</span>
      </div>
    </>
  );
}

/** The filters that leave something to choose. */
function choicesOf(rows: Row[], groups: string[]): [string, string, { value: string; words: string }[]][] {
  const values = (of: (row: Row) => string[]) => [...new Set(rows.flatMap(of))].filter(Boolean);
  const levels = [
    ...new Map([...rows].sort((a, b) => a.elevation - b.elevation).map((r) => [r.level, 0])).keys(),
  ].filter(Boolean);
  const every: [string, string, string, string[]][] = [
    ["framing", "Framing condition", "every framing condition", values((r) => [r.framing]).sort()],
    ["level", "Level", "every level", levels],
    ["group", "Group", "every group", groups],
    ["tag", "Tag", "every tag", values((r) => r.tags).sort()],
    ["person", "Person", "everybody", values((r) => [r.person]).sort()],
    ["sequence", "Sequence", "every sequence", values((r) => [r.sequence]).sort()],
  ];
  return every
    .filter(([name, , , found]) => found.length > 0 || name === "framing")
    .map(([name, label, all, found]) => [
      name,
      label,
      [
        { value: "", words: all },
        ...found.map((value) => ({
          value,
          words: name === "level" ? `level ${value}`.replace("level level", "level") : plain(value),
        })),
      ],
    ]);
}

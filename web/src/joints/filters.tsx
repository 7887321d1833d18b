import { Search } from "lucide-react";
import { type ReactNode, useMemo } from "react";
import type { Row } from "../api/types";
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

/** How many stand how, and what of them is shown. */
export function Filters({ rows, shown, query, groups, text, setText, set, children }: Props) {
  const status = query.get("status") ?? "";
  const counts = useMemo(() => Map.groupBy(rows, (row) => row.status), [rows]);
  const stale = useMemo(() => rows.filter((row) => row.stale).length, [rows]);
  const remarked = useMemo(() => rows.filter((row) => row.status === "pass" && row.remarks.length).length, [rows]);
  const over = useMemo(() => rows.filter((row) => row.over_target).length, [rows]);
  const offered = useMemo(() => choicesOf(rows, groups), [rows, groups]);
  return (
    <>
      <header className="flex items-center gap-2 bg-sheet px-4 pt-2.5">
        <h1 className="mr-2 text-base font-semibold">Joints</h1>
        {ORDER.filter((name) => counts.get(name)).map((name) => (
          <button
            key={name}
            type="button"
            aria-pressed={status === name}
            onClick={() => set("status", status === name ? "" : name)}
            className={`rounded-full border px-2.5 py-0.5 ${status === name ? "border-current bg-white" : "border-line"}`}
            style={{ color: STATUSES[name].colour }}
          >
            {STATUSES[name].mark} {counts.get(name)?.length} {name}
          </button>
        ))}
        {remarked > 0 && (
          <button
            type="button"
            aria-pressed={query.get("remarks") === "1"}
            title="They pass, and a remark asks something of a person"
            onClick={() => set("remarks", query.get("remarks") ? "" : "1")}
            className={`rounded-full border px-2.5 py-0.5 ${query.get("remarks") ? "border-current bg-white" : "border-line"}`}
            style={{ color: REMARKED.colour }}
          >
            {REMARKED.mark} {remarked} {REMARKED.word}
          </button>
        )}
        {over > 0 && (
          <button
            type="button"
            aria-pressed={query.get("over_target") === "1"}
            title="They pass, and are used more than sizing aims at"
            onClick={() => set("over_target", query.get("over_target") ? "" : "1")}
            className={`rounded-full border px-2.5 py-0.5 ${query.get("over_target") ? "border-current bg-white" : "border-line"}`}
            style={{ color: OVER_TARGET.colour }}
          >
            {OVER_TARGET.mark} {over} {OVER_TARGET.word}
          </button>
        )}
        {stale > 0 && (
          <button
            type="button"
            aria-pressed={query.get("stale") === "1"}
            onClick={() => set("stale", query.get("stale") ? "" : "1")}
            className={`rounded-full border px-2.5 py-0.5 text-[#8a5600] ${query.get("stale") ? "border-current bg-white" : "border-line"}`}
          >
            ⟳ {stale} stale
          </button>
        )}
        <label className="ml-auto flex items-center gap-1.5 rounded border border-line bg-white px-2 py-1">
          <Search size={13} className="text-faint" />
          <input
            aria-label="Find"
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

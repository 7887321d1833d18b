import type { ColumnDef } from "@tanstack/react-table";
import type { Row, Status, System } from "../api/types";
import { StatusMark, Used } from "../parts/status";
import { level, OVER_TARGET, pieces, plain } from "../words";

/** What the table can show; the first ones are shown unless somebody chooses. */
export const SHOWN = [
  "connection",
  "status",
  "utilisation",
  "place",
  "section",
  "framing",
  "support_section",
  "sizes",
  "governs",
];

export function columnsFor(system: System): ColumnDef<Row>[] {
  return [
    { accessorKey: "connection", header: "Connection", size: 88, cell: (c) => <Name row={c.row.original} /> },
    { accessorKey: "status", header: "Status", size: 116, cell: (c) => <Standing row={c.row.original} /> },
    {
      accessorKey: "utilisation",
      header: "Utilisation",
      size: 100,
      sortDescFirst: true,
      cell: (c) => <Used utilisation={c.getValue<number>()} broken={c.row.original.broken} />,
    },
    {
      accessorKey: "framing",
      header: "Framing",
      size: 114,
      cell: (c) => <span title={plain(c.getValue<string>())}>{short(c.getValue<string>())}</span>,
    },
    { accessorKey: "section", header: "Member", size: 88 },
    { accessorKey: "support_section", header: "Support", size: 88 },
    {
      id: "sizes",
      header: "Sizes",
      size: 232,
      accessorFn: (row) => row.summary,
      cell: (c) => <span title={c.getValue<string>()}>{c.getValue<string>()}</span>,
    },
    {
      id: "governs",
      header: "Governs",
      size: 150,
      accessorFn: governing,
      cell: (c) => <span title={c.row.original.reason || c.row.original.action}>{plain(c.getValue<string>())}</span>,
    },
    { accessorKey: "joint", header: "Joint", size: 56 },
    { id: "pieces", header: "Pieces", size: 230, accessorFn: (row) => pieces(row.pieces) },
    {
      id: "beside",
      header: "Opposite",
      size: 90,
      accessorFn: (row) => [...new Set(row.relations.map((r) => r.other))].join(", "),
    },
    {
      accessorKey: "place",
      header: "Place",
      size: 116,
      cell: (c) => c.getValue<string>() || `at ${level(c.row.original.elevation, system)}`,
    },
    { accessorKey: "level", header: "Level", size: 70 },
    { accessorKey: "rule", header: "Rule", size: 150 },
    { accessorKey: "action", header: "Combination", size: 150 },
    { accessorKey: "reason", header: "Reason", size: 300, cell: (c) => plain(c.getValue<string>()) },
    { id: "tags", header: "Tags", size: 120, accessorFn: (row) => row.tags.join(", ") },
    { id: "remarks", header: "Remarks", size: 300, accessorFn: (row) => row.remarks.join("; ") },
    { accessorKey: "sequence", header: "Sequence", size: 80 },
    { accessorKey: "person", header: "Person", size: 90 },
    { accessorKey: "released", header: "Released by", size: 100 },
    { accessorKey: "fell", header: "Release fell", size: 300 },
    { accessorKey: "overridden", header: "Overrides", size: 80, sortDescFirst: true },
    { accessorKey: "member", header: "Member name", size: 100 },
    { accessorKey: "support", header: "Support name", size: 100 },
  ];
}

/** How it is framed, as long as a column: a beam is to what it says. */
const short = (framing: string) => plain(framing).replace(/^beam to /, "");

/** The check that governs, the rule of detailing where only that fails, else why there is none. */
const governing = (row: Row) => (row.broken && row.utilisation <= 1 ? row.broken : row.check) || row.reason;

/** The connection, with a pencil where somebody decided against its rule, and a flag where it may be drawn. */
function Name({ row }: { row: Row }) {
  return (
    <b>
      {row.connection}
      {row.overridden > 0 && (
        <span className="pl-1 text-elsewhere" title="decided by a person, not by its rule">
          ✎
        </span>
      )}
      {row.fell && (
        <span className="pl-1 text-[#8a5600]" title={row.fell}>
          ⚐
        </span>
      )}
      {row.released && (
        <span className="pl-1 text-[#23765a]" title={`released by ${row.released}`}>
          ⚑
        </span>
      )}
    </b>
  );
}

function Standing({ row }: { row: Row }) {
  return row.stale ? (
    <span className="whitespace-nowrap font-medium text-[#8a5600]" title={row.reason}>
      <span aria-hidden className="inline-block w-3 text-center">
        ⟳
      </span>{" "}
      stale
    </span>
  ) : (
    <>
      <StatusMark status={row.status as Status} remarks={row.remarks} />
      {row.over_target && (
        <span className="pl-1" style={{ color: OVER_TARGET.colour }} title={OVER_TARGET.word}>
          {OVER_TARGET.mark}
        </span>
      )}
    </>
  );
}

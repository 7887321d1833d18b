import { type ColumnDef, flexRender, getCoreRowModel, type SortingState, useReactTable } from "@tanstack/react-table";
import { useVirtualizer } from "@tanstack/react-virtual";
import { Search } from "lucide-react";
import { useMemo, useRef, useState } from "react";
import { useLocation, useNavigate, useOutletContext, useParams } from "react-router";
import { useAddress } from "../address";
import { useConnections, useGroupOf, useGroups } from "../api/queries";
import type { Job, Row, Status, System } from "../api/types";
import { listed } from "../listing";
import { Choice } from "../parts/choice";
import { NoModel, refused, Trouble, Waiting } from "../parts/empty";
import { StatusMark, Utilisation } from "../parts/status";
import { toConnection } from "../paths";
import { level, ORDER, plain, STATUSES } from "../words";

const ROW = 30;
const SORTED: Record<string, "ascending" | "descending"> = { asc: "ascending", desc: "descending" };

function columnsFor(system: System): ColumnDef<Row>[] {
  return [
    { accessorKey: "connection", header: "Connection", size: 92, cell: (c) => <Name row={c.row.original} /> },
    {
      accessorKey: "status",
      header: "Status",
      size: 100,
      cell: (c) => <StatusMark status={c.getValue<Status>()} />,
    },
    {
      accessorKey: "utilisation",
      header: "Utilisation",
      size: 100,
      sortDescFirst: true,
      cell: (c) => (c.row.original.utilisation ? <Utilisation value={c.getValue<number>()} /> : null),
    },
    { accessorKey: "framing", header: "Framing", size: 150, cell: (c) => plain(c.getValue<string>()) },
    { accessorKey: "section", header: "Member", size: 80 },
    { accessorKey: "support_section", header: "Support", size: 80 },
    {
      id: "sizes",
      header: "Sizes",
      size: 172,
      accessorFn: (row) => row.summary,
    },
    {
      id: "governs",
      header: "Governs",
      size: 140,
      accessorFn: (row) => row.check || row.reason,
      cell: (c) => <span title={c.row.original.reason || c.row.original.action}>{plain(c.getValue<string>())}</span>,
    },
    { accessorKey: "joint", header: "Joint", size: 56 },
    {
      accessorKey: "place",
      header: "Place",
      size: 140,
      cell: (c) => c.getValue<string>() || `at ${level(c.row.original.elevation, system)}`,
    },
  ];
}

/** The connection, with a pencil where somebody set a size by hand. */
function Name({ row }: { row: Row }) {
  return (
    <b>
      {row.connection}
      {row.overridden > 0 && (
        <span className="pl-1 text-elsewhere" title="set by hand">
          ✎
        </span>
      )}
    </b>
  );
}

/** The table of connections: filter, sort, open one. */
export function JointsStation() {
  const { job = "" } = useParams();
  const { data, error, refetch } = useConnections(job);
  const info = useOutletContext<Job | undefined>();
  if (refused(error, data)) return <Trouble error={error} retry={refetch} />;
  if (!data || !info) return <Waiting what="connections" />;
  if (!data.length) return <NoModel job={job} />;
  return <Table rows={data} job={job} system={info.system} />;
}

function Table({ rows, job, system }: { rows: Row[]; job: string; system: System }) {
  const [query, set] = useAddress();
  const [text, setText] = useState(query.get("text") ?? ""); // typed here, and kept in the address
  const sort = query.get("sort") ?? "status";
  const sorting: SortingState = useMemo(() => [{ id: sort.replace("-", ""), desc: sort.startsWith("-") }], [sort]);
  const group = useGroupOf(job, query);
  const groups = useGroups(job).data ?? [];
  const shown = useMemo(() => listed(rows, query, group), [rows, query, group]);
  const columns = useMemo(() => columnsFor(system), [system]);
  const table = useReactTable({
    data: shown,
    columns,
    state: { sorting },
    manualSorting: true,
    enableSortingRemoval: false,
    enableMultiSort: false,
    onSortingChange: (next) => {
      const [first] = typeof next === "function" ? next(sorting) : next;
      set("sort", first ? (first.desc ? "-" : "") + first.id : "status");
    },
    getCoreRowModel: getCoreRowModel(),
  });
  return (
    <div className="flex h-full flex-col">
      <Filters
        rows={rows}
        shown={shown.length}
        status={query.get("status") ?? ""}
        framing={query.get("framing") ?? ""}
        group={query.get("group") ?? ""}
        groups={groups.map((g) => g.name)}
        text={text}
        setText={setText}
        set={set}
      />
      <Body table={table} job={job} />
    </div>
  );
}

interface FilterProps {
  rows: Row[];
  shown: number;
  status: string;
  framing: string;
  group: string;
  groups: string[];
  text: string;
  setText: (text: string) => void;
  set: (name: string, value: string) => void;
}

function Filters({ rows, shown, status, framing, group, groups, text, setText, set }: FilterProps) {
  const counts = useMemo(() => Map.groupBy(rows, (row) => row.status), [rows]);
  const framings = useMemo(() => [...new Set(rows.map((row) => row.framing))].sort(), [rows]);
  return (
    <header className="flex items-center gap-2 border-b border-line bg-sheet px-4 py-2.5">
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
      {groups.length > 0 && (
        <Choice
          label="Group"
          value={group}
          options={[{ value: "", words: "every group" }, ...groups.map((name) => ({ value: name, words: name }))]}
          onChange={(value) => set("group", value)}
          className="ml-auto"
        />
      )}
      <Choice
        label="Framing condition"
        value={framing}
        options={[
          { value: "", words: "every framing condition" },
          ...framings.map((name) => ({ value: name, words: plain(name) })),
        ]}
        onChange={(value) => set("framing", value)}
        className={groups.length ? "" : "ml-auto"}
      />
      <label className="flex items-center gap-1.5 rounded border border-line bg-white px-2 py-1">
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
  );
}

function Body({ table, job }: { table: ReturnType<typeof useReactTable<Row>>; job: string }) {
  const frame = useRef<HTMLDivElement>(null);
  const go = useNavigate();
  const rows = table.getRowModel().rows;
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => frame.current,
    estimateSize: () => ROW,
    overscan: 12,
  });
  const { search } = useLocation();
  const open = (row: Row) => go(toConnection(job, row.connection, `joints${search}`));
  return (
    <div
      ref={frame}
      className="min-h-0 flex-1 overflow-auto"
      role="table"
      aria-label="Connections"
      aria-rowcount={rows.length}
    >
      <div className="sticky top-0 z-10 flex w-max min-w-full border-b border-line bg-paper" role="row">
        {table.getHeaderGroups()[0].headers.map((header) => (
          <div
            key={header.id}
            role="columnheader"
            aria-sort={SORTED[header.column.getIsSorted() as string]}
            className="shrink-0"
            style={{ width: header.getSize() }}
          >
            <button
              type="button"
              onClick={header.column.getToggleSortingHandler()}
              className="w-full px-2 py-1.5 text-left text-xs font-semibold text-faint"
            >
              {flexRender(header.column.columnDef.header, header.getContext())}
              {{ asc: " ↑", desc: " ↓" }[header.column.getIsSorted() as string] ?? ""}
            </button>
          </div>
        ))}
      </div>
      <div className="relative w-max min-w-full" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map((item) => {
          const row = rows[item.index];
          return (
            <div
              key={row.id}
              role="row"
              tabIndex={0}
              onClick={() => open(row.original)}
              onKeyDown={(event) => event.key === "Enter" && open(row.original)}
              className="absolute left-0 flex w-full cursor-pointer items-center border-b border-line/60 hover:bg-sheet"
              style={{ top: item.start, height: ROW }}
            >
              {row.getVisibleCells().map((cell) => (
                <div
                  key={cell.id}
                  role="cell"
                  className="shrink-0 truncate px-2"
                  style={{ width: cell.column.getSize() }}
                >
                  {flexRender(cell.column.columnDef.cell, cell.getContext())}
                </div>
              ))}
            </div>
          );
        })}
      </div>
    </div>
  );
}

import { getCoreRowModel, type SortingState, useReactTable } from "@tanstack/react-table";
import { useMemo, useState } from "react";
import { useOutletContext, useParams } from "react-router";
import { useAddress } from "../address";
import { useConnections, useGroupOf, useGroups } from "../api/queries";
import type { Job, Row } from "../api/types";
import { Acts } from "../joints/acts";
import { columnsFor } from "../joints/columns";
import { Filters } from "../joints/filters";
import { Preview } from "../joints/preview";
import { Body } from "../joints/table";
import { ColumnMenu, columnsOf, FileMenu, ViewMenu } from "../joints/tools";
import { listed } from "../listing";
import { NoModel, refused, Trouble, Waiting } from "../parts/empty";

/** The table of connections: filter, sort, group, select many and act on them, open one. */
export function JointsStation() {
  const { job = "" } = useParams();
  const { data, error, refetch } = useConnections(job);
  const info = useOutletContext<Job | undefined>();
  if (refused(error, data)) return <Trouble error={error} retry={refetch} />;
  if (!data || !info) return <Waiting what="connections" />;
  if (!data.length) return <NoModel job={job} />;
  return <Table rows={data} job={job} info={info} />;
}

function Table({ rows, job, info }: { rows: Row[]; job: string; info: Job }) {
  const [query, set] = useAddress();
  const [text, setText] = useState(query.get("text") ?? ""); // typed here, and kept in the address
  const [picked, setPicked] = useState(new Set<string>());
  const sort = query.get("sort") ?? "status";
  const sorting: SortingState = useMemo(() => [{ id: sort.replace("-", ""), desc: sort.startsWith("-") }], [sort]);
  const group = useGroupOf(job, query);
  const groups = useGroups(job).data ?? [];
  const shown = useMemo(() => listed(rows, query, group), [rows, query, group]);
  const names = columnsOf(query).join(",");
  const columns = useMemo(() => {
    const every = new Map(
      columnsFor(info.system).map((c) => [String(c.id ?? ("accessorKey" in c && c.accessorKey)), c]),
    );
    return names.split(",").flatMap((name) => every.get(name) ?? []);
  }, [info.system, names]);
  const chosen = useMemo(() => rows.filter((row) => picked.has(row.connection)), [rows, picked]);
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
  const role = info.role ?? "viewer";
  const [at, setAt] = useState("");
  return (
    <div className="relative flex h-full flex-col">
      <Filters
        rows={rows}
        shown={shown.length}
        query={query}
        groups={groups.map((g) => g.name)}
        text={text}
        setText={setText}
        set={set}
      >
        <ColumnMenu query={query} set={set} />
        <ViewMenu job={job} query={query} set={set} setText={setText} allowed={role !== "viewer"} />
        <FileMenu job={job} query={query} />
      </Filters>
      <Body table={table} job={job} by={query.get("by") ?? ""} picked={picked} setPicked={setPicked} setAt={setAt} />
      {chosen.length === 0 && <Preview job={job} at={at} />}
      {chosen.length > 0 && <Acts job={job} rows={chosen} role={role} clear={() => setPicked(new Set())} />}
    </div>
  );
}

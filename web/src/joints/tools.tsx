import { DropdownMenu } from "radix-ui";
import { type FormEvent, useState } from "react";
import { usePutView, useViews } from "../api/team";
import { addressOf, whereOf } from "../listing";
import { BUTTON, FIELD, PRIMARY, Refusal } from "../parts/dialog";
import { useFile } from "../parts/download";
import { columnsFor, SHOWN } from "./columns";

const MENU = "z-20 max-h-[70vh] min-w-52 overflow-y-auto rounded-md border border-line bg-sheet p-1 shadow-lg";
const ITEM =
  "flex cursor-pointer items-center justify-between gap-3 rounded px-2 py-1 outline-none data-[highlighted]:bg-paper";

const FIELDS: Record<string, string> = { sizes: "summary", governs: "check" }; // what the service calls some of them
const fieldsOf = (columns: string[]) => columns.map((id) => FIELDS[id] ?? id);
const idsOf = (fields: string[]) =>
  fields.map((field) => Object.keys(FIELDS).find((id) => FIELDS[id] === field) ?? field);

/** The columns that an address names, or the usual ones. */
export const columnsOf = (query: URLSearchParams) => query.get("columns")?.split(",").filter(Boolean) ?? SHOWN;

interface Props {
  query: URLSearchParams;
  set: (name: string, value: string) => void;
}

/** Which columns there are. */
export function ColumnMenu({ query, set }: Props) {
  const shown = columnsOf(query);
  const every = columnsFor("us").map((c) => ({
    id: String(c.id ?? ("accessorKey" in c && c.accessorKey)),
    header: String(c.header),
  }));
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className={BUTTON}>Columns</DropdownMenu.Trigger>
      <DropdownMenu.Content align="end" sideOffset={4} className={MENU}>
        {every.map(({ id, header }) => (
          <DropdownMenu.CheckboxItem
            key={id}
            checked={shown.includes(id)}
            disabled={id === "connection"}
            onSelect={(event) => event.preventDefault()}
            onCheckedChange={(on) => {
              const next = on ? [...shown, id] : shown.filter((name) => name !== id);
              set("columns", next.join(",") === SHOWN.join(",") ? "" : next.join(","));
            }}
            className={ITEM}
          >
            {header} <DropdownMenu.ItemIndicator>✓</DropdownMenu.ItemIndicator>
          </DropdownMenu.CheckboxItem>
        ))}
        <DropdownMenu.Separator className="my-1 border-t border-line" />
        <DropdownMenu.Item className={ITEM} onSelect={() => set("columns", "")}>
          the usual ones
        </DropdownMenu.Item>
      </DropdownMenu.Content>
    </DropdownMenu.Root>
  );
}

const CLEARED = [
  "status",
  "framing",
  "level",
  "person",
  "sequence",
  "tag",
  "stale",
  "group",
  "text",
  "sort",
  "columns",
  "by",
];

/** Views that people kept: filters, order, columns, grouping. */
export function ViewMenu({
  job,
  query,
  set,
  setText,
  allowed,
}: Props & { job: string; setText: (text: string) => void; allowed: boolean }) {
  const views = useViews(job).data ?? [];
  const put = usePutView(job);
  const [name, setName] = useState("");
  const open = (view: (typeof views)[number]) => {
    const wanted = new Map([
      ...addressOf(view.where),
      ["text", view.find ?? ""],
      ["sort", view.sort],
      ["columns", idsOf(view.columns).join(",")],
      ["by", view.group],
    ]);
    for (const each of CLEARED) set(each, wanted.get(each) ?? "");
    setText(view.find ?? "");
  };
  const keep = (event: FormEvent) => {
    event.preventDefault();
    const asks = {
      where: whereOf(query),
      find: query.get("text") ?? "",
      sort: query.get("sort") ?? "status",
      columns: query.get("columns") ? fieldsOf(columnsOf(query)) : [],
      group: query.get("by") ?? "",
    };
    put.mutate({ name: name.trim(), asks }, { onSuccess: () => setName("") });
  };
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className={BUTTON}>Views{views.length ? ` (${views.length})` : ""}</DropdownMenu.Trigger>
      <DropdownMenu.Content align="end" sideOffset={4} className={`${MENU} w-72`}>
        {views.map((view) => (
          <div key={view.name} className="flex items-center">
            <DropdownMenu.Item className={`${ITEM} flex-1`} onSelect={() => open(view)}>
              <span>{view.name}</span> <span className="text-xs text-faint">{view.author}</span>
            </DropdownMenu.Item>
            {allowed && (
              <button
                type="button"
                aria-label={`Take the view ${view.name} away`}
                className="px-2 text-faint hover:text-fail"
                onClick={() => put.mutate({ name: view.name, asks: null })}
              >
                ×
              </button>
            )}
          </div>
        ))}
        {!views.length && <p className="px-2 py-1 text-faint">Nobody kept a view yet.</p>}
        {allowed && (
          <form onSubmit={keep} className="mt-1 border-t border-line p-2">
            <input
              value={name}
              onChange={(event) => setName(event.target.value)}
              onKeyDown={(event) => event.stopPropagation()}
              placeholder="keep what is shown as …"
              aria-label="Name of the view"
              className={FIELD}
            />
            <Refusal error={put.error} />
            <button type="submit" className={`mt-2 w-full ${PRIMARY}`} disabled={!name.trim() || put.isPending}>
              Keep view
            </button>
          </form>
        )}
      </DropdownMenu.Content>
    </DropdownMenu.Root>
  );
}

const NOT_SORTED = ["sizes", "governs", "tags"];

/** What is shown, as a file. */
export function FileMenu({ job, query }: { job: string; query: URLSearchParams }) {
  const [get, why] = useFile();
  const sort = query.get("sort") ?? "status";
  const asked = new URLSearchParams({
    where: whereOf(query),
    find: query.get("text") ?? "",
    sort: NOT_SORTED.includes(sort.replace("-", "")) ? "connection" : sort,
    columns: query.get("columns") ? fieldsOf(columnsOf(query)).join(",") : "",
  });
  return (
    <>
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger className={BUTTON}>As a file</DropdownMenu.Trigger>
        <DropdownMenu.Content align="end" sideOffset={4} className={MENU}>
          {(["xlsx", "csv"] as const).map((kind) => (
            <DropdownMenu.Item
              key={kind}
              className={ITEM}
              onSelect={() => get(`/api/v1/jobs/${encodeURIComponent(job)}/table.${kind}?${asked}`)}
            >
              {kind === "xlsx" ? "Workbook (.xlsx)" : "Table (.csv)"}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Root>
      {why}
    </>
  );
}

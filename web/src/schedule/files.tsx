import { DropdownMenu } from "radix-ui";
import { BUTTON } from "../parts/dialog";
import { useFile } from "../parts/download";

const FILES: [string, [string, string][]][] = [
  [
    "Schedule",
    [
      ["schedule.csv", "as CSV"],
      ["schedule.xlsx", "as a workbook"],
    ],
  ],
  [
    "Details, by mark",
    [
      ["drawings.pdf", "drawings as PDF"],
      ["drawings.dxf", "drawings as DXF"],
      ["calculations.pdf", "calculations as PDF"],
    ],
  ],
  [
    "Lists",
    [
      ["lists/parts.csv", "parts of each mark"],
      ["lists/plates.csv", "plates and angles"],
      ["lists/plates.zip", "plates to cut, a DXF each"],
      ["lists/bolts.csv", "bolts"],
      ["lists/rods.csv", "rods"],
      ["lists/welds.csv", "welds"],
      ["lists/ends.csv", "members' ends: taken off, cuts, copes"],
      ["lists/holes.csv", "holes in members, by face"],
    ],
  ],
  ["The steel", [["steel-model.ifc", "members and connections as IFC"]]],
];

/** What can be taken away as a file. */
export function Files({ job }: { job: string }) {
  const [get, why] = useFile();
  return (
    <>
      {why}
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger className={BUTTON}>Files</DropdownMenu.Trigger>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-20 max-h-[80vh] w-72 overflow-y-auto rounded-md border border-line bg-sheet p-1 shadow-lg"
        >
          {FILES.map(([title, files]) => (
            <DropdownMenu.Group key={title} className="pb-1">
              <DropdownMenu.Label className="px-2 pt-1.5 text-xs text-faint">{title}</DropdownMenu.Label>
              {files.map(([what, words]) => (
                <DropdownMenu.Item
                  key={what}
                  className="cursor-pointer rounded px-2 py-1 outline-none data-[highlighted]:bg-paper"
                  onSelect={() => get(`/api/v1/jobs/${encodeURIComponent(job)}/${what}`)}
                >
                  {words}
                </DropdownMenu.Item>
              ))}
            </DropdownMenu.Group>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Root>
    </>
  );
}

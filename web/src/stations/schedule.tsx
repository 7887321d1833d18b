import { Tabs } from "radix-ui";
import { useOutletContext, useParams } from "react-router";
import { useSchedule } from "../api/rules";
import type { Job } from "../api/types";
import { Empty, refused, Trouble, Waiting } from "../parts/empty";
import { type FileGroups, Files } from "../parts/files";
import { Fewer } from "../schedule/fewer";
import { Marks } from "../schedule/marks";

const FILES: FileGroups = [
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
  [
    "For whoever made the model",
    [
      ["results.xlsx", "results by member end"],
      ["results.png", "the building coloured"],
    ],
  ],
  ["The steel", [["steel-model.ifc", "members and connections as IFC"]]],
];

/** The connections by mark, as the shop makes them; and what fewer marks would cost. */
export function ScheduleStation() {
  const { job = "" } = useParams();
  const info = useOutletContext<Job | undefined>();
  const { data, error, refetch } = useSchedule(job, "");
  if (refused(error, data)) return <Trouble error={error} retry={refetch} />;
  if (!data) return <Waiting what="the schedule" />;
  if (!data.rows.length) return <Empty title="No marks yet">A run gives connections their sizes.</Empty>;
  return (
    <Tabs.Root defaultValue="marks" className="flex h-full flex-col px-6 py-4">
      <header className="flex items-baseline gap-4">
        <h1 className="text-base font-semibold">Schedule</h1>
        <Tabs.List className="flex gap-4" aria-label="Parts of the schedule">
          {[
            ["marks", "Marks"],
            ["fewer", "Fewer marks"],
          ].map(([name, words]) => (
            <Tabs.Trigger
              key={name}
              value={name}
              className="border-b-2 border-transparent py-1 text-faint data-[state=active]:border-brass data-[state=active]:font-semibold data-[state=active]:text-ink"
            >
              {words}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <span className="ml-auto">
          <Files base={`/api/v1/jobs/${encodeURIComponent(job)}`} groups={FILES} />
        </span>
      </header>
      <Tabs.Content value="marks" className="min-h-0 flex-1">
        <Marks job={job} found={data} />
      </Tabs.Content>
      <Tabs.Content value="fewer" className="min-h-0 flex-1">
        <Fewer job={job} role={info?.role ?? "viewer"} />
      </Tabs.Content>
    </Tabs.Root>
  );
}

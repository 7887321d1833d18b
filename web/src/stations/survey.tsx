import { Tabs } from "radix-ui";
import { useOutletContext, useParams } from "react-router";
import { useAddress } from "../address";
import { useAudit } from "../api/queries";
import type { Job } from "../api/types";
import { Download } from "../parts/download";
import { NoModel, refused, Trouble, Waiting } from "../parts/empty";
import { CombinationsPanel } from "../survey/combinations";
import { FindingsPanel } from "../survey/findings";
import { InventoryPanel } from "../survey/inventory";
import { RevisionsPanel } from "../survey/revisions";

const TABS = [
  { value: "findings", words: "Audit" },
  { value: "inventory", words: "Sections and demands" },
  { value: "combinations", words: "Combinations" },
  { value: "revisions", words: "Revisions" },
];

/** What everybody agrees on before anything is designed: whether the data is right, what is in it, what it is judged by. */
export function SurveyStation() {
  const { job = "" } = useParams();
  const info = useOutletContext<Job | undefined>();
  const { data, error, refetch } = useAudit(job);
  const [query, set] = useAddress();
  if (info && !info.revision) return <NoModel job={job} />;
  if (refused(error, data)) return <Trouble error={error} retry={refetch} />;
  if (!data) return <Waiting what="the audit" />;
  const tab = query.get("tab") ?? "findings";
  return (
    <Tabs.Root
      value={tab}
      onValueChange={(value) => set("tab", value === "findings" ? "" : value)}
      className="flex h-full flex-col"
    >
      <header className="border-b border-line px-5 pt-4">
        <h1 className="text-base font-semibold">
          R{data.number} {data.title}{" "}
          <span className="font-normal text-faint">
            revision {data.label || "–"}
            {data.dated && `, ${data.dated}`} · imported by {data.author}
          </span>{" "}
          <Download
            className="ml-3 text-xs font-normal text-brass-dark underline-offset-2 hover:underline"
            href={`/api/v1/jobs/${encodeURIComponent(job)}/survey.pdf`}
          >
            PDF, two pages
          </Download>
        </h1>
        <Tabs.List className="mt-2 flex gap-1" aria-label="Survey">
          {TABS.map(({ value, words }) => (
            <Tabs.Trigger
              key={value}
              value={value}
              className="px-3 py-1.5 text-faint data-[state=active]:border-b-2 data-[state=active]:border-brass-dark data-[state=active]:font-semibold data-[state=active]:text-ink"
            >
              {words}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
      </header>
      <Tabs.Content value="findings" className="min-h-0 flex-1 overflow-y-auto p-5">
        <FindingsPanel job={job} revision={data} allowed={Boolean(info && info.role !== "viewer")} />
      </Tabs.Content>
      <Tabs.Content value="inventory" className="min-h-0 flex-1 overflow-y-auto p-5">
        <InventoryPanel job={job} />
      </Tabs.Content>
      <Tabs.Content value="combinations" className="min-h-0 flex-1 overflow-y-auto p-5">
        <CombinationsPanel job={job} allowed={Boolean(info && ["engineer", "admin"].includes(info.role))} />
      </Tabs.Content>
      <Tabs.Content value="revisions" className="min-h-0 flex-1 overflow-y-auto p-5">
        <RevisionsPanel job={job} />
      </Tabs.Content>
    </Tabs.Root>
  );
}

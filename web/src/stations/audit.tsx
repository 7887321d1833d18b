import { Popover } from "radix-ui";
import { useAudit } from "../api/queries";
import type { Finding, Model } from "../api/types";

/** Whether the revision's data is right: the balance and what the audit found, each pointing at its node. */
export function AuditPanel({ job, model, onPick }: { job: string; model: Model; onPick: (node: string) => void }) {
  const { data } = useAudit(job);
  if (!data) return null;
  const { balance, findings } = data.audit;
  const of = (severity: string) => findings.filter((f) => f.severity === severity).length;
  const counted = (n: number, word: string) => (n ? `${n} ${word}${n > 1 ? "s" : ""}` : "");
  const said = [counted(of("error"), "error"), counted(of("warning"), "warning")].filter(Boolean).join(", ");
  return (
    <Popover.Root>
      <Popover.Trigger className="rounded border border-line bg-sheet px-3 py-1">
        <span className={said ? "text-fail" : "text-pass"}>{said ? "!" : "✓"}</span> audit: {said || "no warnings"}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          aria-label="Audit"
          className="z-10 w-[460px] rounded-md border border-line bg-sheet p-3 shadow-lg"
        >
          <h2 className="font-semibold">
            R{data.number} {data.title} <span className="font-normal text-faint">revision {data.label || "–"}</span>
          </h2>
          <p className="mt-1">
            {balance.nodes_checked} nodes balanced; the worst is {balance.node || "none"} in {balance.result || "–"},
            out by {(balance.worst_share * 100).toFixed(3)} % of the forces meeting there
          </p>
          <p className="mt-1 text-faint">
            {Object.entries(data.audit.counts)
              .map(([what, count]) => `${count} ${what}`)
              .join(" · ")}
          </p>
          <ul className="mt-2 max-h-96 overflow-y-auto">
            {findings.map((f) => (
              <li key={f.code + f.message} className="border-t border-line/60 py-1.5">
                <Popover.Close asChild>
                  <button
                    type="button"
                    disabled={!nodeOf(f, model)}
                    className="text-left enabled:hover:underline"
                    onClick={() => onPick(nodeOf(f, model))}
                  >
                    <span className={f.severity !== "note" ? "text-fail" : "text-faint"}>{f.severity}</span> {f.message}
                    {f.place && <span className="text-faint"> ({f.place})</span>}
                  </button>
                </Popover.Close>
              </li>
            ))}
          </ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function nodeOf(finding: Finding, model: Model): string {
  if (finding.node) return finding.node;
  const member = model.members.find((m) => m.member === finding.member);
  return member ? model.nodes[member.i].node : "";
}

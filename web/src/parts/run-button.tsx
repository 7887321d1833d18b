import { Play, Square } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { useEffect, useRef, useState } from "react";
import { useCancelRun, useRefresh, useRuns, useStartRun } from "../api/queries";
import { spoken } from "../words";
import { LookDialog, Looked } from "./look";
import { RunChanges } from "./run-changes";

/** Starts a run, shows how far it is, stops it. */
export function RunButton({ job, method, allowed }: { job: string; method: string; allowed: boolean }) {
  const { data: runs } = useRuns(job);
  const start = useStartRun(job);
  const cancel = useCancelRun(job);
  const refresh = useRefresh(job);
  const last = runs?.[0];
  const busy = last && ["queued", "running"].includes(last.state);
  const [looking, setLooking] = useState(false);
  const was = useRef(false);
  useEffect(() => {
    if (was.current && !busy) refresh();
    was.current = Boolean(busy);
  }, [busy, refresh]);

  if (busy) {
    const share = last.total ? last.done / last.total : 0;
    return (
      <div className="space-y-1.5" role="status">
        <div className="flex justify-between text-xs text-white/80">
          <span>{last.state === "queued" ? "Run waiting" : `Run ${last.id}`}</span>
          <span>
            {last.total ? `${last.done} of ${last.total}` : ""}
            {last.left !== null && last.left > 2 ? `, ${spoken(last.left)}` : ""}
          </span>
        </div>
        <div className="h-1.5 rounded-full bg-white/15">
          <div className="h-full rounded-full bg-brass transition-all" style={{ width: `${share * 100}%` }} />
        </div>
        <button
          type="button"
          className="flex w-full items-center justify-center gap-1.5 rounded border border-white/25 py-1 text-xs"
          onClick={() => cancel.mutate(last.id)}
        >
          <Square size={11} /> Stop
        </button>
      </div>
    );
  }
  const words =
    last &&
    (last.state === "done"
      ? `${last.mode === "look" ? "Look" : "Run"} ${last.id} done, by ${last.author}${last.combination_set && last.combination_set !== "strength" ? `, set ${last.combination_set}` : ""}`
      : `Run ${last.id}: ${last.state}`);
  return (
    <div className="space-y-1.5">
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger
          disabled={!allowed}
          data-run
          className="flex w-full items-center justify-center gap-2 rounded bg-brass py-1.5 font-semibold text-rail disabled:opacity-40"
        >
          <Play size={13} fill="currentColor" /> Run
        </DropdownMenu.Trigger>
        <DropdownMenu.Content
          side="top"
          align="start"
          sideOffset={6}
          className="z-20 w-64 rounded-md border border-line bg-sheet p-1 text-ink shadow-lg"
        >
          <Choice
            title="Size"
            words="Climb the ladders of the rulebook; overrides hold"
            onSelect={() => start.mutate({})}
          />
          <Choice
            title="Verify"
            words="Check the sizes as they stand"
            onSelect={() => start.mutate({ verify: true })}
          />
          <Choice
            title="Look …"
            words="By another set, or single combinations; no result changes"
            onSelect={() => setLooking(true)}
          />
        </DropdownMenu.Content>
      </DropdownMenu.Root>
      <LookDialog job={job} method={method} open={looking} setOpen={setLooking} />
      {last?.mode === "look" && last.state === "done" && <Looked job={job} run={last} />}
      <p className="text-[11px] leading-snug text-white/75">
        {start.error
          ? start.error.message
          : last?.state === "failed"
            ? `Run ${last.id} failed: ${last.message}`
            : words}
      </p>
      {last?.state === "done" && last.mode !== "look" && <RunChanges job={job} run={last} />}
    </div>
  );
}

function Choice({ title, words, onSelect }: { title: string; words: string; onSelect: () => void }) {
  return (
    <DropdownMenu.Item
      onSelect={onSelect}
      className="cursor-pointer rounded px-2.5 py-1.5 outline-none data-[highlighted]:bg-paper"
    >
      <div className="font-semibold">{title}</div>
      <div className="text-xs text-faint">{words}</div>
    </DropdownMenu.Item>
  );
}

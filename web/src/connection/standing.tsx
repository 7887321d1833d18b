import { useStartRun } from "../api/queries";
import type { Connection } from "../api/types";
import { AskDialog } from "../asked/ask";
import { ReleaseDialog } from "../joints/acts";
import { when } from "../ledger/table";
import { LINK } from "../parts/dialog";
import { Reframe } from "./reframe";
import { ShopNote } from "./shop-note";

/** Whether a person decided here, whether it may be drawn, who works on it. */
export function Standing({ job, data, role }: { job: string; data: Connection; role: string }) {
  const start = useStartRun(job);
  const look = data.overrides.filter((o) => o.look.length > 0 && ["awaiting", "accepted"].includes(o.state)).length;
  const awaiting = data.overrides.filter((o) => o.state === "awaiting").length;
  const released = [...data.history].reverse().find((event) => event.event === "released");
  const said = [
    data.overridden > 0 && `✎ ${data.overridden} decided by a person`,
    awaiting > 0 && `${awaiting} await${awaiting === 1 ? "s" : ""} an engineer’s word`,
    look > 0 && `⟳ ${look} to look at again`,
    data.person && `worked on by ${data.person}`,
    data.sequence && `sequence ${data.sequence}`,
    ...data.tags.map((tag) => `#${tag}`),
  ].filter(Boolean);
  const engineer = role === "engineer" || role === "admin";
  const ready = data.released || ((data.status === "pass" || data.status === "elsewhere") && !awaiting && !look);
  if (!said.length && !data.released && !data.fell && !data.verified && !data.shop_note && role === "viewer")
    return null;
  return (
    <p className="mt-0.5 flex flex-wrap items-center gap-x-3">
      {data.released && (
        <span className="font-medium text-[#23765a]">
          ⚑ released by {data.released}
          {released && <span className="font-normal text-faint">, {when(released.made)}</span>}
        </span>
      )}
      {data.fell && <span className="text-[#8a5600]">⚐ {data.fell}</span>}
      {data.verified && !data.stale && (
        <span>
          verified as it stands under revision {data.verified.revision}: {data.utilisation.toFixed(2)}, was{" "}
          {data.verified.utilisation.toFixed(2)}
        </span>
      )}
      {said.length > 0 && <span className="text-elsewhere">{said.join(" · ")}</span>}
      <ShopNote job={job} connection={data.connection} note={data.shop_note} allowed={engineer} />
      {engineer && ready && (
        <span className="text-xs">
          <ReleaseDialog job={job} rows={[data]} look={LINK} />
        </span>
      )}
      {data.stale && role !== "viewer" && (
        <button
          type="button"
          className={LINK}
          disabled={start.isPending}
          onClick={() => start.mutate({ where: `connection="${data.connection}"` })}
        >
          size it again
        </button>
      )}
      {role !== "viewer" && (
        <span className="-ml-2">
          <Reframe job={job} data={data} />
          <AskDialog
            job={job}
            subjects={[
              { kind: "connection", name: data.connection },
              { kind: "joint", name: data.joint },
              { kind: "member", name: data.member },
            ]}
          />
        </span>
      )}
    </p>
  );
}

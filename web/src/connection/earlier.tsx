import { useMutation } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { decideForMany, useEarlier } from "../api/decisions";
import { useRefresh } from "../api/queries";
import type { Connection, EarlierDesigns } from "../api/types";
import { BUTTON, Frame, LINK, PRIMARY, Refusal } from "../parts/dialog";
import { NO_REASON, Reason, reasoned } from "../parts/reason";
import { share } from "../parts/status";
import { plain } from "../words";

type Design = EarlierDesigns["items"][number];
const SHOWN = 3;

/** Offered where a connection fails or no rule takes it: what passes between like members elsewhere, and passes here. */
export function Earlier({ job, data, role }: { job: string; data: Connection; role: string }) {
  const needs = data.status === "fail" || data.status === "unassigned";
  const { data: found } = useEarlier(job, data.connection, needs && role !== "viewer");
  const passing = found?.items.filter((one) => one.status === "pass") ?? [];
  if (!needs || !passing.length) return null;
  return (
    <p className="mt-1 flex flex-wrap items-baseline gap-x-2">
      <span className="text-faint">Earlier designs that pass here:</span>
      {passing.slice(0, SHOWN).map((one) => (
        <TakeOver key={`${one.job} ${one.connection}`} job={job} connection={data.connection} one={one} />
      ))}
    </p>
  );
}

function TakeOver({ job, connection, one }: { job: string; connection: string; one: Design }) {
  const [open, setOpen] = useState(false);
  const [why, setWhy] = useState(NO_REASON);
  const refresh = useRefresh(job);
  const from = one.job === job ? one.connection : `${one.connection} of ${one.job}`;
  const keep = useMutation({
    mutationFn: () =>
      decideForMany(
        job,
        {
          connections: [connection],
          changes: one.changes as Record<string, string>,
          ...why,
          skip: false,
          both: false,
        },
        false,
      ),
    onSuccess: () => {
      refresh();
      setOpen(false);
    },
  });
  return (
    <Frame
      trigger={`${one.summary}, used ${share(one.utilisation)}, as at ${from}`}
      look={LINK}
      title={`As at ${from}`}
      words={`${plain(one.standard)} ${one.summary}: ${one.count} connections have it. Worked out again here and kept as overrides that await an engineer’s word.`}
      open={open}
      setOpen={setOpen}
    >
      <Reason why={why} setWhy={setWhy} />
      <Refusal error={keep.error} />
      <div className="mt-4 flex justify-end gap-2">
        <Dialog.Close className={BUTTON}>Not now</Dialog.Close>
        <button
          type="button"
          className={PRIMARY}
          disabled={!reasoned(why) || keep.isPending}
          onClick={() => keep.mutate()}
        >
          Take it over
        </button>
      </div>
    </Frame>
  );
}

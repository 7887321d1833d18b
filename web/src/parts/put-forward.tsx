import { useMutation } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { decideForMany } from "../api/decisions";
import { useRefresh } from "../api/queries";
import { BUTTON, Frame, LINK, PRIMARY, Refusal } from "./dialog";
import { NO_REASON, Reason, reasoned } from "./reason";

type Proposed = {
  job: string;
  connections: string[];
  changes: Parameters<typeof decideForMany>[1]["changes"];
  trigger: string;
  title: string;
  words: string;
  act: string;
};

/** Found sizes put forward for connections with a reason: overrides that await an engineer's word. */
export function PutForward({ job, connections, changes, trigger, title, words, act }: Proposed) {
  const [open, setOpen] = useState(false);
  const [why, setWhy] = useState(NO_REASON);
  const refresh = useRefresh(job);
  const keep = useMutation({
    mutationFn: () => decideForMany(job, { connections, changes, ...why, skip: false, both: false }, false),
    onSuccess: () => {
      refresh();
      setOpen(false);
    },
  });
  return (
    <Frame trigger={trigger} look={LINK} title={title} words={words} open={open} setOpen={setOpen}>
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
          {act}
        </button>
      </div>
    </Frame>
  );
}

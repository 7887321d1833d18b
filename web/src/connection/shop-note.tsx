import { Dialog } from "radix-ui";
import { useState } from "react";
import { useShopNote } from "../api/team";
import { BUTTON, FIELD, Frame, LINK, PRIMARY, Refusal } from "../parts/dialog";

/** What the shop may alter, as an engineer said it; and, for one, the way to say it. */
export function ShopNote({
  job,
  connection,
  note,
  allowed,
}: {
  job: string;
  connection: string;
  note: string;
  allowed: boolean;
}) {
  const [open, setOpen] = useState(false);
  const [words, setWords] = useState(note);
  const put = useShopNote(job);
  const show = (on: boolean) => {
    setWords(note);
    setOpen(on);
  };
  if (!note && !allowed) return null;
  return (
    <span>
      {note && <span>to the shop: {note} </span>}
      {allowed && (
        <Frame
          trigger={note ? "change the note" : "note to the shop"}
          look={LINK}
          title={`To the shop, on ${connection}`}
          words="What may be altered, and how. It stands on the drawing and in the calculation."
          open={open}
          setOpen={show}
        >
          <textarea
            value={words}
            onChange={(event) => setWords(event.target.value)}
            rows={3}
            maxLength={400}
            className={FIELD}
            aria-label="Note to the shop"
            placeholder="the plate may be longer; bolts stay where they are"
          />
          <Refusal error={put.error} />
          <div className="mt-4 flex justify-end gap-2">
            <Dialog.Close className={BUTTON}>Not now</Dialog.Close>
            <button
              type="button"
              className={PRIMARY}
              disabled={put.isPending || words.trim() === note}
              onClick={() => put.mutate({ connections: [connection], words }, { onSuccess: () => setOpen(false) })}
            >
              {words.trim() || !note ? "Keep" : "Take it back"}
            </button>
          </div>
        </Frame>
      )}
    </span>
  );
}

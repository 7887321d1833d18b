import { Dialog } from "radix-ui";
import { useState } from "react";
import { type Act, useReview } from "../api/decisions";
import { BUTTON, FIELD, Frame, PRIMARY, Refusal } from "../parts/dialog";

const ACTS: Record<Act, { name: string; words: string; needs: boolean }> = {
  accept: {
    name: "Accept",
    words: "They stand on what there is now, and hold until an engineer clears them.",
    needs: false,
  },
  return: {
    name: "Return",
    words: "Their connections are sized by their rules again, or by what was accepted before. Say why.",
    needs: true,
  },
  confirm: { name: "Confirm", words: "They were looked at again, and stand on what there is now.", needs: false },
  clear: {
    name: "Clear",
    words: "Their connections are sized by their rules again; the ledger keeps every word.",
    needs: false,
  },
};

/** One act on decisions that were picked, with a word. */
export function ReviewDialog({
  job,
  act,
  ids,
  done,
  look = BUTTON,
}: {
  job: string;
  act: Act;
  ids: number[];
  done?: () => void;
  look?: string;
}) {
  const [open, setOpen] = useState(false);
  const [word, setWord] = useState("");
  const review = useReview(job);
  const { name, words, needs } = ACTS[act];
  const number = ids.length === 1 ? "this decision" : `${ids.length} decisions`;
  const go = () =>
    review.mutate(
      { act, overrides: ids, word },
      {
        onSuccess: () => {
          setOpen(false);
          setWord("");
          done?.();
        },
      },
    );
  return (
    <Frame trigger={name} look={look} title={`${name} ${number}?`} words={words} open={open} setOpen={setOpen}>
      <textarea
        value={word}
        onChange={(e) => setWord(e.target.value)}
        placeholder={needs ? "why" : "a word, if there is one"}
        rows={2}
        className={FIELD}
        aria-label="Word"
      />
      <Refusal error={review.error} />
      <div className="mt-4 flex justify-end gap-2">
        <Dialog.Close className={BUTTON}>Not now</Dialog.Close>
        <button type="button" className={PRIMARY} onClick={go} disabled={review.isPending || (needs && !word.trim())}>
          {name} {number}
        </button>
      </div>
    </Frame>
  );
}

import { Dialog } from "radix-ui";
import type { ReactNode } from "react";

export const BUTTON = "rounded border border-line px-3 py-1.5";
export const PRIMARY = "rounded bg-rail px-3 py-1.5 font-semibold text-white disabled:bg-line disabled:text-faint";
export const FIELD = "mt-1 w-full rounded border border-line bg-white px-2.5 py-1.5";

/** What opens a dialog from within a line of text. */
export const LINK = "rounded px-1.5 text-right text-xs text-brass-dark underline-offset-2 hover:underline";

/** A question that is asked over the page. */
export function Frame({
  trigger,
  look = LINK,
  title,
  words,
  open,
  setOpen,
  beside,
  children,
}: {
  trigger: ReactNode;
  look?: string;
  title: string;
  words: string;
  open: boolean;
  setOpen: (open: boolean) => void;
  beside?: ReactNode; // what it is about, right of the question
  children: ReactNode;
}) {
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className={look}>{trigger}</Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-rail/40" />
        <Dialog.Content
          className={`fixed left-1/2 top-1/2 z-30 max-h-[90vh] ${beside ? "grid w-[920px] grid-cols-[420px_1fr] gap-5" : "w-[460px]"} -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-lg bg-sheet p-5 shadow-2xl`}
        >
          <div>
            <Dialog.Title className="text-base font-semibold">{title}</Dialog.Title>
            <Dialog.Description className="mb-4 text-faint">{words}</Dialog.Description>
            {children}
          </div>
          {beside}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** Why it was refused, where it was. */
export function Refusal({ error }: { error: Error | null }) {
  return error ? (
    <p role="alert" className="mt-2 text-fail">
      {error.message}
    </p>
  ) : null;
}

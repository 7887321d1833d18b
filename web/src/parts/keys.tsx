import { Dialog } from "radix-ui";
import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { to } from "../paths";

type Keys = Record<string, (() => void) | undefined>;

/** What single keys do while this is shown; not while somebody types, nor with a dialog open. */
export function useKeys(keys: Keys) {
  const bound = useRef(keys);
  bound.current = keys;
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const at = event.target instanceof HTMLElement ? event.target : null;
      if (at && (/INPUT|TEXTAREA|SELECT/.test(at.tagName) || at.isContentEditable)) return;
      if (event.ctrlKey || event.metaKey || event.altKey || document.querySelector("[role=dialog]")) return;
      const act = bound.current[event.key];
      if (!act) return;
      event.preventDefault();
      act();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, []);
}

const LIST = [
  ["?", "these keys"],
  ["/", "find a connection, or a job"],
  ["r", "run"],
  ["j, k", "the next connection of the list, the one before"],
  ["3", "the drawing, or the joint in 3D"],
  ["↑ ↓, Page up, Page down", "along the list of joints"],
  ["Space, Shift", "pick a row, and all up to another"],
  ["Enter", "open a row"],
  ["Escape", "let go of what is picked"],
];

/** Finds, runs, and shows what else there are keys for. */
export function JobKeys({ job }: { job: string }) {
  const [open, setOpen] = useState(false);
  const go = useNavigate();
  useKeys({
    "?": () => setOpen(true),
    "/": () => {
      const field = document.querySelector<HTMLInputElement>("[data-find]");
      if (field) field.focus();
      else go(to(job, "joints"), { state: { find: true } });
    },
    r: () => {
      const button = document.querySelector<HTMLButtonElement>("[data-run]:not([disabled])");
      button?.focus();
      button?.dispatchEvent(new KeyboardEvent("keydown", { key: "Enter", bubbles: true }));
    },
  });
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className="whitespace-nowrap underline-offset-2 hover:underline">Keys ?</Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-black/30" />
        <Dialog.Content className="fixed left-1/2 top-1/2 z-40 w-[30rem] -translate-x-1/2 -translate-y-1/2 rounded-lg bg-sheet p-5 text-ink shadow-xl outline-none">
          <Dialog.Title className="text-base font-semibold">Keys</Dialog.Title>
          <Dialog.Description className="sr-only">What single keys do</Dialog.Description>
          <dl className="mt-3 grid grid-cols-[13rem_1fr] gap-y-1.5">
            {LIST.map(([key, words]) => (
              <div key={key} className="contents">
                <dt>
                  {key.split(", ").map((one) => (
                    <kbd key={one} className="mr-1 rounded border border-line bg-paper px-1.5 py-0.5 text-xs">
                      {one}
                    </kbd>
                  ))}
                </dt>
                <dd>{words}</dd>
              </div>
            ))}
          </dl>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

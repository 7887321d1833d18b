import { useRef } from "react";
import { useTakeDesigns } from "../api/designs";
import type { WrittenDesign } from "../api/types";

/** Designs come in: one from another service's file, or many from a published table; as drafts, each looked at by our
 *  own code. */
export function Take({ taken }: { taken: (one: WrittenDesign) => void }) {
  const input = useRef<HTMLInputElement>(null);
  const take = useTakeDesigns();
  return (
    <>
      <button
        type="button"
        className="whitespace-nowrap rounded border border-white/40 px-2 py-1 text-xs text-white"
        disabled={take.isPending}
        title="A design that another service sent (.json), or a published table of them (.csv, .xlsx, .ods)"
        onClick={() => input.current?.click()}
      >
        {take.isPending ? "Looking at them …" : "Take in a file"}
      </button>
      <input
        ref={input}
        type="file"
        hidden
        accept=".json,.csv,.xlsx,.ods"
        aria-label="File of designs"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) take.mutate(file, { onSuccess: ({ one }) => one && taken(one) });
          event.target.value = "";
        }}
      />
      {take.data && <span className="text-xs text-white">{take.data.words}</span>}
      {take.error && (
        <span role="alert" className="rounded bg-fail px-2 py-1 text-xs text-white">
          {take.error.message}
        </span>
      )}
    </>
  );
}

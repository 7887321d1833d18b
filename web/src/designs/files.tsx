import { useRef } from "react";
import { useDesignFile } from "../api/designs";
import type { WrittenDesign } from "../api/types";
import { LINK, Refusal } from "../parts/dialog";

const size = (bytes: number) => (bytes < 1e6 ? `${Math.ceil(bytes / 1e3)} kB` : `${(bytes / 1e6).toFixed(1)} MB`);

/** Files that people put to a revision: a calculation, a sketch, a certificate. */
export function Files({ design, allowed }: { design: WrittenDesign; allowed: boolean }) {
  const change = useDesignFile(design);
  const input = useRef<HTMLInputElement>(null);
  if (!design.files.length && !allowed) return null;
  const at = `/api/v1/designs/${encodeURIComponent(design.name)}/${design.number}/files`;
  return (
    <section aria-label="Files" className="text-xs">
      <h3 className="font-semibold">Files</h3>
      {design.files.map((file) => (
        <p key={file.id} className="flex items-baseline gap-2">
          <a className="min-w-0 truncate underline underline-offset-2" href={`${at}/${file.id}`}>
            {file.name}
          </a>
          <span className="whitespace-nowrap text-faint">
            {size(file.size)}, {file.author} {file.made.slice(0, 10)}
          </span>
          {allowed && design.state === "draft" && (
            <button
              type="button"
              className={LINK}
              disabled={change.isPending}
              onClick={() => change.mutate({ gone: file.id })}
            >
              take away
            </button>
          )}
        </p>
      ))}
      {allowed && (
        <>
          <button
            type="button"
            className="text-brass-dark underline-offset-2 hover:underline"
            disabled={change.isPending}
            onClick={() => input.current?.click()}
          >
            put a file to it
          </button>
          <input
            ref={input}
            type="file"
            hidden
            aria-label="File of the design"
            onChange={(event) => {
              const file = event.target.files?.[0];
              if (file) change.mutate({ file });
              event.target.value = ""; // the same file may be chosen again
            }}
          />
        </>
      )}
      <Refusal error={change.error} />
    </section>
  );
}

import type { ReactNode } from "react";
import { PRIMARY } from "./dialog";
import { ImportDialog } from "./import-dialog";

/** A view that has nothing to show yet, is waiting, or was refused. */
export function Empty({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div className="flex h-full items-center justify-center p-10">
      <div className="max-w-md text-center">
        <h1 className="text-base font-semibold">{title}</h1>
        <div className="mt-2 text-faint">{children}</div>
      </div>
    </div>
  );
}

/** A job before its first revision. */
export function NoModel({ job }: { job: string }) {
  return (
    <Empty title="No model yet">
      <ImportDialog job={job} look={PRIMARY} />
      <p className="mt-3">
        or from a terminal: <code>handrail import {job} FOLDER-OR-ZIP</code>
      </p>
    </Empty>
  );
}

export function Waiting({ what }: { what: string }) {
  return <Empty title={`Reading ${what} …`} />;
}

export function Trouble({ error, retry }: { error: Error; retry?: () => void }) {
  return (
    <Empty title="That did not work">
      <p>{error.message}</p>
      {retry && (
        <button type="button" className="mt-4 rounded border border-line bg-sheet px-3 py-1.5" onClick={retry}>
          Try again
        </button>
      )}
    </Empty>
  );
}

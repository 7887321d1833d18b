import type { ReactNode } from "react";

/** A view that has nothing to show yet, is waiting, or was refused. */
export function Empty({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div className="flex h-full items-center justify-center p-10">
      <div className="max-w-md text-center">
        <p className="text-base font-semibold">{title}</p>
        <div className="mt-2 text-faint">{children}</div>
      </div>
    </div>
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

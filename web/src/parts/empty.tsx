import type { ReactNode } from "react";
import { Link, Navigate, useLocation } from "react-router";
import { Refused } from "../api/client";
import { to } from "../paths";
import { PRIMARY } from "./dialog";

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
      <Link to={to(job, "import")} className={`inline-block ${PRIMARY}`}>
        Import a model
      </Link>
      <p className="mt-3">
        or from a terminal: <code>handrail import {job} PATH</code>
      </p>
    </Empty>
  );
}

export function Waiting({ what }: { what: string }) {
  return <Empty title={`Reading ${what} …`} />;
}

/** Whether what was read must not be shown: there is nothing, or the service refuses it now. Where the service only does not answer,
 * what was read stays, and the rail says since when. */
export const refused = (error: Error | null, data: unknown): error is Error =>
  Boolean(error && (!data || (error instanceof Refused && error.status >= 400 && error.status < 500)));

/** Why there is nothing to see, and from where no rail leads on the way to the `jobs`; who is signed out goes to the door, and comes
 * back here. */
export function Trouble({ error, retry, jobs }: { error: Error; retry?: () => void; jobs?: boolean }) {
  const { pathname, search } = useLocation();
  if (error instanceof Refused && error.status === 401)
    return <Navigate to="/sign-in" state={`${pathname}${search}`} replace />;
  return (
    <Empty title="That did not work">
      <p>{error.message}</p>
      {retry && (
        <button type="button" className="mt-4 rounded border border-line bg-sheet px-3 py-1.5" onClick={retry}>
          Try again
        </button>
      )}
      {jobs && (
        <p className="mt-4">
          <Link to="/" className="underline">
            All jobs
          </Link>
        </p>
      )}
    </Empty>
  );
}

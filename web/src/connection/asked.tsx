import { useAsked } from "../api/asked";
import type { Connection } from "../api/types";
import { OneAsked } from "../asked/list";

/** What is asked of the engineer of record here, and not closed. */
export function AskedHere({ job, data, role }: { job: string; data: Connection; role: string }) {
  const { data: asked } = useAsked(job, data.connection);
  const open = (asked?.items ?? []).filter((one) => one.state !== "closed");
  if (!open.length) return null;
  return (
    <section className="mt-0.5" aria-label="Queries">
      {open.map((one) => (
        <OneAsked key={one.number} job={job} asked={one} role={role} />
      ))}
    </section>
  );
}

import { useEffect, useState } from "react";
import { useConnection } from "../api/queries";
import { SceneView } from "../drawing/scene-view";

const STILL = 350; // ms that the cursor stays on a row

/** The drawing of the row under the cursor, or with the keyboard on it, once it stays there. */
export function Preview({ job, at }: { job: string; at: string }) {
  const [still, setStill] = useState("");
  useEffect(() => {
    const later = window.setTimeout(() => setStill(at), at ? STILL : 0);
    return () => window.clearTimeout(later);
  }, [at]);
  return still && still === at ? <Card job={job} connection={still} /> : null;
}

function Card({ job, connection }: { job: string; connection: string }) {
  const view = useConnection(job, connection).data?.drawing?.views[0];
  if (!view) return null;
  return (
    <aside
      aria-label={`Drawing of ${connection}`}
      className="pointer-events-none absolute bottom-3 right-3 z-20 rounded-md border border-line bg-white p-2 shadow-lg"
    >
      <p className="px-1 text-xs font-semibold">{connection}</p>
      <SceneView view={view} width={400} height={310} />
    </aside>
  );
}

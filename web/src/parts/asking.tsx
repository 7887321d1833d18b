import { useEffect, useState } from "react";
import { type Asked, leave, useAsked } from "../api/asking";
import { spoken } from "../words";

const SOON = 800; // milliseconds that nobody needs to be told of

/** What the service works out for this person, longer than a moment: how far it is, how long it takes yet, a way to leave it. */
export function Asking() {
  const asked = useAsked();
  const [now, look] = useState(Date.now());
  useEffect(() => {
    if (!asked.length) return;
    const timer = window.setInterval(() => look(Date.now()), 400);
    return () => window.clearInterval(timer);
  }, [asked.length]);
  const long = asked.filter((one) => now - one.since > SOON);
  if (!long.length) return null;
  return (
    <div role="status" className="absolute bottom-3 right-3 z-20 w-80 space-y-2">
      {long.map((one) => (
        <div key={one.id} className="rounded border border-line bg-sheet px-3 py-2 shadow">
          <p className="flex items-baseline justify-between gap-3">
            <span>Working out {one.about}</span>
            <button type="button" className="text-faint underline underline-offset-2" onClick={() => leave(one.id)}>
              Leave it
            </button>
          </p>
          <div
            role="progressbar"
            aria-label={one.about}
            aria-valuemin={0}
            aria-valuemax={one.total || undefined}
            aria-valuenow={one.total ? one.done : undefined}
            className="mt-1 h-1.5 rounded-full bg-line"
          >
            <div
              className="h-full rounded-full bg-brass"
              style={{ width: one.total ? `${(100 * one.done) / one.total}%` : 0 }}
            />
          </div>
          <p className="text-faint">{far(one)}</p>
        </div>
      ))}
    </div>
  );
}

/** How far a question is, in words. */
function far(one: Asked) {
  if (one.state === "waiting") return one.ahead ? `waits, ${one.ahead} before it` : "waits for its turn";
  if (!one.total) return "begun";
  const share = `${Math.floor((100 * one.done) / one.total)} %`;
  return one.left === null ? share : `${share}, about ${spoken(one.left)} left`;
}

import { useState } from "react";
import { Link } from "react-router";
import { useReserve } from "../api/team";
import type { Reserves, System } from "../api/types";
import { BUTTON, Refusal } from "../parts/dialog";
import { PutForward } from "../parts/put-forward";
import { share } from "../parts/status";
import { toConnection } from "../paths";
import { plain, sentence, WEIGHT } from "../words";

const BELOW = 0.6;
type Item = Reserves["items"][number];

/** Connections with much in reserve: what less would pass for all that are alike, and what that saves. */
export function ReservePart({ job, system, role }: { job: string; system: System; role: string }) {
  const [asked, setAsked] = useState(false);
  const { data, error, isFetching } = useReserve(job, BELOW, asked);
  if (!asked)
    return (
      <button type="button" className={BUTTON} onClick={() => setAsked(true)}>
        Look for what could do with less
      </button>
    );
  if (error) return <Refusal error={error} />;
  if (!data || isFetching) return <p className="text-faint">Trying less on all that are used less than {BELOW} …</p>;
  const items = data.items.filter((item) => Object.keys(item.changes).length > 0);
  const idle = data.items.filter((item) => item.idle.length > 0);
  return (
    <>
      <p className="mb-2 text-faint">
        {data.connections} connections are used less than {BELOW}. Nothing goes below the least that its standard has,
        and the bolt stays the shop’s. What goes through both sides of a web is left as it is.
      </p>
      {items.length > 0 && (
        <table className="w-full" aria-label="What could do with less">
          <thead className="text-left text-xs text-faint">
            <tr className="border-b border-line">
              {["Alike", "Member", "Sizes", "Used", "Step down", "Then", "All of them save", ""].map((name) => (
                <th key={name} className="py-1 pr-3">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {items.map((item) => (
              <tr key={item.connections[0]} className="border-b border-line/60 align-top">
                <td className="py-1 pr-3">
                  {item.connections.length} ×{" "}
                  <Link
                    className="font-semibold hover:underline"
                    to={toConnection(job, item.connections[0], "progress")}
                  >
                    {item.connections[0]}
                  </Link>
                </td>
                <td className="pr-3">{item.section}</td>
                <td className="pr-3">{item.summary}</td>
                <td className="pr-3">{share(item.utilisation)}</td>
                <td className="pr-3">{words(item)}</td>
                <td className="pr-3">{share(item.then)}</td>
                <td className="pr-3">{saved(item, system)}</td>
                <td>{role !== "viewer" && <StepDown job={job} item={item} />}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {!items.length && <p>None of them would pass with less.</p>}
      {idle.map((item) => (
        <p key={item.connections[0]} className="mt-1 text-xs text-faint">
          {item.connections.length} × {item.connections[0]} ({item.section}, {item.summary}): no check of its{" "}
          {item.idle.map(plain).join(", ")} reaches 5 %.
        </p>
      ))}
    </>
  );
}

const words = (item: Item) =>
  Object.entries(item.changes)
    .map(([name, value]) => `${plain(name)} to ${sentence(value)}`)
    .join(", ");

function saved({ saves_all: all }: Item, system: System) {
  const steel = all.steel ?? 0;
  const { unit, scale } = WEIGHT[system];
  const said = [
    steel && `${(steel * scale).toFixed(system === "us" ? 0 : 1)} ${unit} steel`,
    all.field_bolts && `${all.field_bolts} field bolts`,
    all.shop_bolts && `${all.shop_bolts} shop bolts`,
    all.weld && `${(all.weld * scale).toFixed(1)} ${unit} weld`,
  ].filter(Boolean);
  return said.join(", ") || "not counted";
}

const StepDown = ({ job, item }: { job: string; item: Item }) => (
  <PutForward
    job={job}
    connections={item.connections}
    changes={item.changes}
    trigger="put forward"
    title={`${words(item)} on ${item.connections.length}`}
    words="Worked out again for each and kept as overrides that await an engineer’s word."
    act="Put forward"
  />
);

import { useState } from "react";
import { Link } from "react-router";
import type { Form, Units } from "../api/bench";
import { useLike, useTrialOf } from "../api/designs";
import { picture } from "../designs/picture";
import { BUTTON, Refusal } from "../parts/dialog";
import { Utilisation } from "../parts/status";
import { plain } from "../words";
import { Before } from "./before";

/** House designs roughly like what stands on the Bench, tried under its actions: those that hold first, the lightest
 *  first. */
export function Like({ form, units, put }: { form: Form; units: Units; put: (entries: Form) => void }) {
  const like = useLike();
  const [share, setShare] = useState("15");
  const [degrees, setDegrees] = useState("3");
  const [of, off] = [Number(share.replace(",", ".")) / 100, Number(degrees.replace(",", "."))];
  const sound = of >= 0 && of <= 1 && off >= 0 && off <= 90;
  const take = useTrialOf();
  return (
    <section aria-label="House designs like this" className="mt-4 border-t border-line pt-3">
      <p className="flex items-center gap-2">
        <b className="flex-1">House designs like this</b>
        <button
          type="button"
          className={BUTTON}
          disabled={!sound || like.isPending}
          onClick={() => like.mutate({ form, units, share: of, degrees: off })}
        >
          {like.isPending ? "Looking …" : "Find"}
        </button>
      </p>
      <p className="text-xs text-faint">
        of this framing, members’ depths within <Near label="Depths within, per cent" value={share} put={setShare} /> %,
        angles within <Near label="Angles within, degrees" value={degrees} put={setDegrees} /> °
      </p>
      <Refusal error={like.error ?? take.error} />
      <Before asked={like.variables?.form} form={form} again="Find" any />
      {like.data && (
        <p className="my-1 text-xs text-faint">
          {like.data.like === 0
            ? "Nothing like it: allow more, or keep this one as a house design."
            : `${like.data.like} like it, ${like.data.tried === like.data.like ? "all" : `the nearest ${like.data.tried}`} tried under these actions.`}
        </p>
      )}
      {like.data?.items.map((found) => (
        <div key={found.design.called} className="mb-2 flex gap-2 rounded border border-line bg-white p-2">
          <img src={picture(found.design)} alt="" className="h-20 w-24 shrink-0 object-contain" />
          <div className="min-w-0 flex-1">
            <p className="flex items-baseline justify-between gap-2">
              <Link
                className="truncate font-semibold underline-offset-2 hover:underline"
                to={`/-/designs?name=${found.design.name}&number=${found.design.number}`}
              >
                {found.design.called}
              </Link>
              {found.status === "unchecked" ? (
                <span className="text-xs text-unchecked">? unchecked</span>
              ) : (
                <Utilisation value={found.utilisation} />
              )}
            </p>
            <p className="truncate text-xs">{found.design.summary}</p>
            <p className={`text-xs ${found.status === "pass" ? "text-faint" : "text-fail"}`}>
              {found.status === "pass" ? `${plain(found.check)} governs` : found.reason}
            </p>
            <button
              type="button"
              className={`${BUTTON} mt-1 py-0.5 text-xs`}
              disabled={take.isPending}
              onClick={() =>
                take.mutate(found.design, {
                  onSuccess: (trial) => trial && put({ standard: trial.standard, parameters: trial.parameters }),
                })
              }
            >
              {found.status === "pass" ? "Take it" : "Take it, it does not pass"}
            </button>
          </div>
        </div>
      ))}
    </section>
  );
}

function Near({ label, value, put }: { label: string; value: string; put: (value: string) => void }) {
  return (
    <input
      aria-label={label}
      className="w-9 rounded border border-line bg-white px-1 text-ink"
      value={value}
      onChange={(event) => put(event.target.value)}
    />
  );
}

import { useState } from "react";
import { Link } from "react-router";
import { useAcknowledge, useTakeBack } from "../api/queries";
import type { Finding, Revision } from "../api/types";
import { BUTTON, FIELD, Frame, PRIMARY, Refusal } from "../parts/dialog";
import { to } from "../paths";
import { amount } from "../words";

const MARKS = {
  error: { mark: "✕", look: "text-fail", words: "error" },
  warning: { mark: "!", look: "text-unchecked", words: "warning" },
  note: { mark: "·", look: "text-faint", words: "note" },
};

/** Whether the data is right: the balance, and what the audit found, each at its place, with what to do and who lets it stand. */
export function FindingsPanel({ job, revision, allowed }: { job: string; revision: Revision; allowed: boolean }) {
  const { balance, findings, counts, system = "us" } = revision.audit;
  const open = findings.filter((f) => !f.acknowledged);
  const stand = findings.filter((f) => f.acknowledged);
  return (
    <div className="grid gap-6 xl:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
      <section aria-label="Findings">
        <h2 className="font-semibold">
          {open.length ? `${open.length} to look at` : "Nothing to look at: the audit found the data right"}
        </h2>
        <ul className="mt-2">
          {open.map((f) => (
            <Row key={key(f)} job={job} finding={f} allowed={allowed} />
          ))}
        </ul>
        {stand.length > 0 && (
          <>
            <h2 className="mt-5 font-semibold">{stand.length} let stand</h2>
            <ul className="mt-2">
              {stand.map((f) => (
                <Row key={key(f)} job={job} finding={f} allowed={allowed} />
              ))}
            </ul>
          </>
        )}
      </section>
      <section aria-label="Balance">
        <h2 className="font-semibold">What is in it</h2>
        <p className="mt-1 text-faint">
          {Object.entries(counts)
            .map(([what, count]) => `${count} ${what}`)
            .join(" · ")}
        </p>
        <h2 className="mt-4 font-semibold">Balance of the nodes</h2>
        <p className="mt-1 text-faint">
          {balance.nodes_checked} nodes in every result; the worst ones, as a share of the forces that meet there:
        </p>
        <table className="mt-1 w-full text-left text-xs">
          <thead className="text-faint">
            <tr>
              {["node", "result", "share", "force out by", "moment"].map((name) => (
                <th key={name} className="py-1 pr-2 font-normal">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {(balance.worst ?? []).slice(0, 10).map((w) => (
              <tr key={w.node} className="border-t border-line/60">
                <td className="py-1 pr-2">
                  <Link
                    className="text-brass-dark underline-offset-2 hover:underline"
                    to={`${to(job, "model")}?joint=${encodeURIComponent(w.node)}`}
                  >
                    {w.node}
                  </Link>{" "}
                  <span className="text-faint">{w.place}</span>
                </td>
                <td className="pr-2">{w.result}</td>
                <td className={`pr-2 ${w.share > 0.01 ? "font-semibold text-fail" : ""}`}>
                  {(100 * w.share).toFixed(3)} %
                </td>
                <td className="pr-2">{amount(size(w.residual.slice(0, 3)), "kN", system)}</td>
                <td>{amount(size(w.residual.slice(3)), "kN*m", system)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
    </div>
  );
}

const key = (f: Finding) => `${f.code}|${f.node}|${f.member}|${f.message}`;
const size = (values: number[]) => Math.hypot(...values);

function Row({ job, finding, allowed }: { job: string; finding: Finding; allowed: boolean }) {
  const { mark, look, words } = MARKS[finding.severity];
  const back = useTakeBack(job);
  return (
    <li className="flex items-start gap-3 border-t border-line/60 py-2">
      <span className={`w-20 shrink-0 ${look}`}>
        <b aria-hidden="true">{mark}</b> {words}
      </span>
      <div className="min-w-0 flex-1">
        <p>{finding.message}</p>
        {finding.acknowledged && (
          <p className="text-faint">
            stands: {finding.acknowledged.reason} ({finding.acknowledged.author})
          </p>
        )}
      </div>
      {(finding.node || finding.member) && (
        <Link
          to={`${to(job, "model")}?${finding.node ? `joint=${encodeURIComponent(finding.node)}` : `member=${encodeURIComponent(finding.member ?? "")}`}`}
          className="shrink-0 text-brass-dark underline-offset-2 hover:underline"
        >
          {finding.node || finding.member}
        </Link>
      )}
      {allowed &&
        (finding.acknowledged ? (
          <button
            type="button"
            className="shrink-0 text-xs text-brass-dark hover:underline"
            onClick={() => back.mutate(finding)}
          >
            count it again
          </button>
        ) : (
          <LetStand job={job} finding={finding} />
        ))}
    </li>
  );
}

function LetStand({ job, finding }: { job: string; finding: Finding }) {
  const [open, setOpen] = useState(false);
  const [reason, setReason] = useState("");
  const acknowledge = useAcknowledge(job);
  return (
    <Frame trigger="let stand" title="Let it stand" words={finding.message} open={open} setOpen={setOpen}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          acknowledge.mutate({ finding, reason }, { onSuccess: () => setOpen(false) });
        }}
      >
        <label className="block">
          <span className="text-faint">Why it may; it stays so in later revisions</span>
          <input required className={FIELD} value={reason} onChange={(event) => setReason(event.target.value)} />
        </label>
        <Refusal error={acknowledge.error} />
        <div className="mt-4 flex justify-end gap-2">
          <button type="button" className={BUTTON} onClick={() => setOpen(false)}>
            Leave it
          </button>
          <button type="submit" className={PRIMARY} disabled={!reason.trim() || acknowledge.isPending}>
            Let it stand
          </button>
        </div>
      </form>
    </Frame>
  );
}

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

/** Whether the data is right: the balance, and what the audit found, by cause and the worst first, each at its place, and who lets it stand. */
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
          {grouped(open).map((group) => (
            <Group key={key(group[0] as Finding)} job={job} group={group} allowed={allowed} />
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

const WEIGHT = { error: 0, warning: 1, note: 2 };

/** Findings of one code and cause together, the worst group first: errors, then by what was measured. */
function grouped(findings: Finding[]): Finding[][] {
  const groups = new Map<string, Finding[]>();
  for (const f of findings) {
    const name = `${f.severity}|${f.code}|${f.cause ?? ""}`;
    groups.set(name, [...(groups.get(name) ?? []), f]);
  }
  const worst = (group: Finding[]) => Math.max(...group.map((f) => Math.abs(f.value)));
  return [...groups.values()].sort((a, b) => {
    const [one, other] = [a[0] as Finding, b[0] as Finding];
    return WEIGHT[one.severity] - WEIGHT[other.severity] || b.length - a.length || worst(b) - worst(a);
  });
}

/** One finding; several of one cause as one, with those behind it and a word for all. */
function Group({ job, group, allowed }: { job: string; group: Finding[]; allowed: boolean }) {
  const [open, setOpen] = useState(false);
  const first = group[0] as Finding;
  if (group.length === 1) return <Row job={job} finding={first} allowed={allowed} />;
  const { mark, look, words } = MARKS[first.severity];
  return (
    <li className="border-t border-line/60 py-2">
      <div className="flex items-start gap-3">
        <span className={`w-20 shrink-0 ${look}`}>
          <b aria-hidden="true">{mark}</b> {words}
        </span>
        <button
          type="button"
          aria-expanded={open}
          className="min-w-0 flex-1 text-left hover:underline"
          onClick={() => setOpen(!open)}
        >
          <b>{group.length}</b> {first.code.replaceAll("_", " ")}
          {first.cause && `: ${first.cause}`}
          <span className="block truncate text-faint">{first.message}</span>
        </button>
        {allowed && <LetStand job={job} finding={first} all={group.length} />}
      </div>
      {open && (
        <ul className="mt-1 max-h-96 overflow-y-auto pl-6">
          {group.slice(0, 200).map((f) => (
            <Row key={key(f)} job={job} finding={f} allowed={allowed} />
          ))}
        </ul>
      )}
    </li>
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

function LetStand({ job, finding, all = 0 }: { job: string; finding: Finding; all?: number }) {
  const [open, setOpen] = useState(false);
  const [reason, setReason] = useState("");
  const acknowledge = useAcknowledge(job);
  return (
    <Frame
      trigger={all ? "let all stand" : "let stand"}
      title={all ? `Let all ${all} stand` : "Let it stand"}
      words={all ? `${all} findings like this: ${finding.message}` : finding.message}
      open={open}
      setOpen={setOpen}
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          acknowledge.mutate({ finding, reason, all: all > 0 }, { onSuccess: () => setOpen(false) });
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
            {all ? "Let them stand" : "Let it stand"}
          </button>
        </div>
      </form>
    </Frame>
  );
}

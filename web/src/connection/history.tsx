import { type FormEvent, useRef, useState } from "react";
import { useStep, useSteps } from "../api/changes";
import { useAttach, useAttachments } from "../api/decisions";
import { useComment } from "../api/team";
import type { Connection, Override } from "../api/types";
import { ReviewDialog } from "../ledger/review";
import { decidedOf, MARKS, State, when, why } from "../ledger/table";
import { BUTTON, FIELD, LINK, Refusal } from "../parts/dialog";
import { share } from "../parts/status";
import { plain, sentence } from "../words";

interface Props {
  job: string;
  data: Connection;
  role: string;
}

/** What people decided against the rules here, what it rests on, and all that happened. */
export function History({ job, data, role }: Props) {
  const holding = data.overrides.filter((o) => ["awaiting", "accepted"].includes(o.state));
  const ended = data.overrides.filter((o) => !["awaiting", "accepted"].includes(o.state));
  return (
    <>
      <Stepping job={job} moved={data.version} />
      {!data.overrides.length && (
        <p className="text-faint">Nobody has decided anything against the rules here. Change a size under “Sizes”.</p>
      )}
      <ol className="space-y-3">
        {[...holding, ...ended.filter((o) => o.state === "returned")].map((o) => (
          <Decision key={o.id} job={job} o={o} role={role} />
        ))}
      </ol>
      <Story data={data} />
      {role !== "viewer" && <Comment key={data.connection} job={job} connection={data.connection} />}
    </>
  );
}

/** Back and forward through the person's own changes, wherever in the job they are. */
function Stepping({ job, moved }: { job: string; moved: number }) {
  const { data } = useSteps(job, moved);
  const step = useStep(job);
  if (!data || !(data.back || data.forward)) return null;
  return (
    <div className="mb-3">
      <div className="flex flex-wrap gap-2">
        {(["back", "forward"] as const).map((way) => {
          const words = data[way];
          return (
            words && (
              <button
                key={way}
                type="button"
                className={BUTTON}
                disabled={step.isPending}
                onClick={() => step.mutate(way)}
              >
                {way === "back" ? "← back over" : "→ forward to"} {plain(words)}
              </button>
            )
          );
        })}
      </div>
      <Refusal error={step.error} />
    </div>
  );
}

function Decision({ job, o, role }: { job: string; o: Override; role: string }) {
  const engineer = role === "engineer" || role === "admin";
  const holds = ["awaiting", "accepted"].includes(o.state);
  const ids = [o.id as number];
  return (
    <li className="rounded border border-line bg-white p-3">
      <div className="flex items-baseline justify-between">
        <span className="font-semibold">
          {decidedOf(o.parameter)}: {(o.parameter !== "elsewhere" && sentence(String(o.before.value))) || "–"} →{" "}
          {sentence(o.value)}
        </span>
        <State state={o.state} />
      </div>
      <p className="mt-1">{why(o)}</p>
      <p className="mt-1 text-faint">
        {o.author}, {when(o.made)}
        {o.after.utilisation > 0 && ` · utilisation ${share(o.before.utilisation)} → ${share(o.after.utilisation)}`}
      </p>
      {o.reviewer && (
        <p className="text-faint">
          {o.state} by {o.reviewer}, {when(o.reviewed)}
          {o.word && `: “${o.word}”`}
        </p>
      )}
      {o.grounds && (
        <p className="mt-1 text-xs text-faint">
          Without it: {plain(o.grounds.value || "nothing")}
          {o.grounds.rule && ` by rule “${o.grounds.rule}”`}, {o.grounds.status}
          {o.grounds.utilisation > 0 && ` at ${share(o.grounds.utilisation)}`}.
        </p>
      )}
      {o.look.map((words) => (
        <p key={words} className="mt-1 text-[#8a5600]">
          ⟳ look again: {sentence(words)}
        </p>
      ))}
      {o.marks.map((mark) => (
        <p key={mark} className={`mt-1 text-xs ${mark === "worse" ? "text-fail" : "text-faint"}`}>
          {MARKS[mark]}
          {mark === "agrees" && ": it can be cleared"}
        </p>
      ))}
      <Files job={job} override={o.id as number} allowed={role !== "viewer" && holds} />
      {holds && role !== "viewer" && (
        <p className="mt-1 flex justify-end gap-1">
          {engineer && o.state === "awaiting" && <ReviewDialog job={job} act="accept" ids={ids} look={LINK} />}
          {engineer && <ReviewDialog job={job} act="return" ids={ids} look={LINK} />}
          {o.look.length > 0 && (engineer || o.state === "awaiting") && (
            <ReviewDialog job={job} act="confirm" ids={ids} look={LINK} />
          )}
          {(engineer || o.state === "awaiting") && <ReviewDialog job={job} act="clear" ids={ids} look={LINK} />}
        </p>
      )}
    </li>
  );
}

function Files({ job, override, allowed }: { job: string; override: number; allowed: boolean }) {
  const files = useAttachments(job, override, true).data ?? [];
  const attach = useAttach(job, override);
  const input = useRef<HTMLInputElement>(null);
  if (!files.length && !allowed) return null;
  return (
    <p className="mt-1 flex flex-wrap gap-x-3 text-xs">
      {files.map((file) => (
        <a
          key={file.id}
          className="underline-offset-2 hover:underline"
          href={`/api/v1/jobs/${encodeURIComponent(job)}/overrides/${override}/attachments/${file.id}`}
        >
          {file.name}
        </a>
      ))}
      {allowed && (
        <>
          <button type="button" className="text-brass-dark hover:underline" onClick={() => input.current?.click()}>
            attach a file
          </button>
          <input
            ref={input}
            type="file"
            hidden
            aria-label="File to attach"
            onChange={(event) => event.target.files?.[0] && attach.mutate(event.target.files[0])}
          />
        </>
      )}
      <Refusal error={attach.error} />
    </p>
  );
}

const HAPPENED: Record<string, string> = {
  set: "put forward",
  again: "holds again",
  look: "asks to be looked at",
  fell: "release fell",
  waits: "not applied",
  back: "applied again",
  moved: "called otherwise",
};

/** All that happened here, the last first. */
function Story({ data }: { data: Connection }) {
  if (!data.history.length) return null;
  return (
    <>
      <h2 className="mb-1 mt-5 font-semibold">What happened</h2>
      <ol aria-label="What happened">
        {[...data.history].reverse().map((event, k) => (
          <li key={k} className="grid grid-cols-[146px_104px_1fr] gap-2 border-b border-line/60 py-1 last:border-0">
            <span className="text-xs text-faint">{when(event.made)}</span>
            <span className={`text-xs ${["look", "fell", "returned"].includes(event.event) ? "text-[#8a5600]" : ""}`}>
              {HAPPENED[event.event] ?? event.event}
            </span>
            <span>
              {sentence(event.words)} {event.author && <span className="text-xs text-faint">{event.author}</span>}
            </span>
          </li>
        ))}
      </ol>
    </>
  );
}

function Comment({ job, connection }: { job: string; connection: string }) {
  const [words, setWords] = useState("");
  const comment = useComment(job, connection);
  const say = (event: FormEvent) => {
    event.preventDefault();
    comment.mutate(words, { onSuccess: () => setWords("") });
  };
  return (
    <form onSubmit={say} className="mt-3 flex items-start gap-2">
      <textarea
        value={words}
        onChange={(event) => setWords(event.target.value)}
        rows={1}
        className={FIELD}
        aria-label="Comment"
        placeholder="say something about this connection"
      />
      <button type="submit" className={`mt-1 ${BUTTON}`} disabled={!words.trim() || comment.isPending}>
        Say
      </button>
      <Refusal error={comment.error} />
    </form>
  );
}

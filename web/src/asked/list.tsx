import { Dialog } from "radix-ui";
import { useState } from "react";
import { Link } from "react-router";
import { type Step, useAsked, useAskedStep, useTakeIn } from "../api/asked";
import type { Asked } from "../api/types";
import { BUTTON, FIELD, Frame, LINK, PRIMARY, Refusal } from "../parts/dialog";
import { refused, Trouble, Waiting } from "../parts/empty";
import { Files } from "../parts/files";
import { toConnection } from "../paths";

const STEPS: Record<Step, { trigger: string; title: string; words: string; needed: boolean }> = {
  answer: { trigger: "answer …", title: "What was answered", words: "As it was said; it stays.", needed: true },
  close: {
    trigger: "close …",
    title: "Close it?",
    words: "What it asked is settled. It holds nothing.",
    needed: false,
  },
  again: { trigger: "ask again …", title: "Ask it again", words: "Say why.", needed: true },
};

function StepDialog({ job, asked, step }: { job: string; asked: Asked; step: Step }) {
  const [open, setOpen] = useState(false);
  const [words, setWords] = useState("");
  const put = useAskedStep(job);
  const { trigger, title, words: about, needed } = STEPS[step];
  const go = () => put.mutate({ number: asked.number, step, words }, { onSuccess: () => setOpen(false) });
  return (
    <Frame trigger={trigger} look={LINK} title={`${asked.name}: ${title}`} words={about} open={open} setOpen={setOpen}>
      <textarea
        className={FIELD}
        rows={3}
        value={words}
        aria-label="Words"
        onChange={(event) => setWords(event.target.value)}
      />
      <Refusal error={put.error} />
      <div className="mt-4 flex justify-end gap-2">
        <Dialog.Close className={BUTTON}>Not now</Dialog.Close>
        <button type="button" className={PRIMARY} disabled={put.isPending || (needed && !words.trim())} onClick={go}>
          Keep
        </button>
      </div>
    </Frame>
  );
}

/** One query: what is asked, of what, until when, and what was said of it. */
export function OneAsked({ job, asked, role }: { job: string; asked: Asked; role: string }) {
  const engineer = role === "engineer" || role === "admin";
  return (
    <div>
      <p>
        <b className="font-semibold">{asked.name}</b> {asked.title}{" "}
        <span className={asked.late ? "text-fail" : "text-faint"}>
          {asked.state}
          {asked.holds && asked.state === "open" && ", holds the release"}
          {asked.due && `, due ${asked.due}`}
          {asked.late && ", late"}
          {asked.to && `, to ${asked.to}`}
        </span>
        {role !== "viewer" && asked.state !== "closed" && <StepDialog job={job} asked={asked} step="answer" />}
        {engineer && asked.state !== "closed" && <StepDialog job={job} asked={asked} step="close" />}
        {role !== "viewer" && asked.state !== "open" && <StepDialog job={job} asked={asked} step="again" />}
      </p>
      {asked.words && <p className="whitespace-pre-wrap text-faint">{asked.words}</p>}
      {asked.said.map((said) => (
        <p key={`${said.made} ${said.what}`} className="text-xs">
          <span className="text-faint">
            {said.what} by {said.author}, {said.made.slice(0, 10)}:
          </span>{" "}
          {said.words}
        </p>
      ))}
    </div>
  );
}

/** All that is asked of the engineer of record; as a list to print, as BCF, and in again. */
export function AskedPart({ job, role }: { job: string; role: string }) {
  const { data, error, refetch } = useAsked(job);
  const takeIn = useTakeIn(job);
  const [all, setAll] = useState(false);
  if (refused(error, data)) return <Trouble error={error} retry={refetch} />;
  if (!data) return <Waiting what="the queries" />;
  const shown = data.items.filter((one) => all || one.state !== "closed");
  return (
    <section aria-label="Queries">
      <p className="flex flex-wrap items-center gap-3 text-faint">
        {data.open} open{data.late > 0 && `, ${data.late} late`}; asked at a connection.
        {data.items.some((one) => one.state === "closed") && (
          <label className="flex gap-1.5">
            <input type="checkbox" checked={all} onChange={(event) => setAll(event.target.checked)} /> closed ones too
          </label>
        )}
        <span className="ml-auto flex items-center gap-2">
          {role !== "viewer" && (
            <label className={`${BUTTON} cursor-pointer`}>
              Take in BCF …
              <input
                type="file"
                accept=".bcf,.bcfzip"
                className="sr-only"
                onChange={(event) => event.target.files?.[0] && takeIn.mutate(event.target.files[0])}
              />
            </label>
          )}
          <Files
            base={`/api/v1/jobs/${encodeURIComponent(job)}`}
            groups={[
              [
                "Queries",
                [
                  ["queries.pdf", "a list as PDF"],
                  ["queries.bcf?version=2.1", "BCF 2.1"],
                  ["queries.bcf?version=3.0", "BCF 3.0"],
                ],
              ],
            ]}
          />
        </span>
      </p>
      {takeIn.data && (
        <p role="status">
          taken in: {takeIn.data.new.length} new, {takeIn.data.changed.length} changed, {takeIn.data.same.length} the
          same
        </p>
      )}
      <Refusal error={takeIn.error} />
      <ul className="mt-1 space-y-1">
        {shown.map((one) => (
          <li key={one.number} className="rounded bg-sheet px-3 py-1.5">
            <OneAsked job={job} asked={one} role={role} />
            <p className="text-xs">
              <span className="text-faint">of {one.of.map((of) => `${of.kind} ${of.name}`).join(", ")}: </span>
              {one.connections.slice(0, 8).map((name) => (
                <Link key={name} to={toConnection(job, name, "")} className="mr-2 underline-offset-2 hover:underline">
                  {name}
                </Link>
              ))}
              {one.connections.length > 8 && `and ${one.connections.length - 8} more`}
              {!one.connections.length && "nothing in the model that stands"}
            </p>
          </li>
        ))}
      </ul>
    </section>
  );
}

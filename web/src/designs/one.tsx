import { useState } from "react";
import { Link } from "react-router";
import { useDesignInJob, useDesignState } from "../api/designs";
import { useJobs, useMe } from "../api/queries";
import type { HouseDesign, WrittenDesign } from "../api/types";
import { packed, short } from "../bench/form";
import { Choice } from "../parts/choice";
import { BUTTON, PRIMARY, Refusal } from "../parts/dialog";
import { Download } from "../parts/download";
import { share } from "../parts/status";
import { toConnection } from "../paths";
import { plain } from "../words";
import { About } from "./about";
import { Files } from "./files";
import { Send } from "./send";
import { UseHere } from "./use-here";

const SHOWN = 12;
const PAPER = [
  { kind: "page", words: "Calculation" },
  { kind: "pdf", words: "Drawing" },
  { kind: "dxf", words: "DXF" },
];

/** What a design says, fits, asks and holds; who signed it; where it stands, and what it would hold in a job. */
export function One({
  design,
  units,
  pick,
}: {
  design: WrittenDesign;
  units: "us" | "si";
  pick: (of: HouseDesign) => void;
}) {
  const { data: me } = useMe();
  const state = useDesignState();
  const [fields, setFields] = useState<Record<string, string>>({});
  const may = design.state === "draft" || design.state === "house";
  return (
    <article className="space-y-3">
      <header>
        <h2 className="text-base font-semibold">
          {design.called} <span className="font-normal text-faint">{design.title}</span>
        </h2>
        <p className="text-xs text-faint">
          {plain(design.standard)}; made by {design.author} {design.made.slice(0, 10)}, {design.source}
          {design.tags.length > 0 && `; ${design.tags.join(", ")}`}
          {design.seen_by.length > 0 && `; kept to ${design.seen_by.join(", ")}`}
          {design.signer && `; signed by ${design.signer} ${design.signed.slice(0, 10)}`}
        </p>
      </header>
      {design.state !== "house" && design.state !== "shipped" && (
        <p className="rounded bg-brass/15 px-2 py-1 text-xs">
          {design.state === "draft"
            ? "A draft: rules use it once an engineer has signed it."
            : "Withdrawn: what stands on it goes on standing, nothing new begins with it."}
        </p>
      )}
      {design.differs && <p className="rounded bg-fail/10 px-2 py-1 text-fail">△ {design.differs}</p>}
      {design.why && <p className="rounded bg-fail/10 px-2 py-1 text-fail">✕ {design.why}</p>}
      <img
        src={`/api/v1/designs/${encodeURIComponent(design.name)}/${design.number}/picture?units=${units}`}
        alt={`Drawing of ${design.called}`}
        className="max-h-72 w-full border border-line bg-white object-contain"
      />
      {design.note && <p className="whitespace-pre-line text-xs">{design.note}</p>}
      <p className="text-xs">
        {design.summary}
        <span className="text-faint">
          {" "}
          on {[design.section, design.support].filter(Boolean).join(" to ")}, {plain(design.framing)}
        </span>
      </p>
      {design.holds.length > 0 && (
        <table aria-label="What it holds" className="w-full text-xs">
          <thead className="text-left text-faint">
            <tr className="border-b border-line">
              <th className="py-0.5">Action alone</th>
              <th className="text-right">holds</th>
              <th className="pl-3">ends by</th>
            </tr>
          </thead>
          <tbody>
            {design.holds.map((one) => (
              <tr key={one.action} className="border-b border-line/60">
                <td className="py-0.5">{one.words}</td>
                <td className="text-right font-semibold">{one.text}</td>
                <td className="pl-3">{plain(one.check)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <section aria-label="What it fits" className="text-xs">
        <h3 className="font-semibold">Fits</h3>
        <p className="text-faint">{design.fits.join(" · ") || "whatever its standard goes with"}</p>
      </section>
      {design.fields.length > 0 && (
        <section aria-label="What it asks" className="text-xs">
          <h3 className="font-semibold">Asks</h3>
          {design.fields.map((field) => (
            <Field
              key={field.name}
              field={field}
              value={fields[field.name] ?? ""}
              put={(value) => {
                const { [field.name]: _, ...rest } = fields;
                setFields(value ? { ...rest, [field.name]: value } : rest);
              }}
            />
          ))}
          <p className="mt-1 text-faint">What is left empty is as usual; it counts below, and where you use it.</p>
        </section>
      )}
      <div className="flex flex-wrap gap-2">
        {design.trial && (
          <Link className={`${BUTTON} inline-block`} to={`/-/bench#${packed(short(design.trial as never))}`}>
            Take it to the Bench
          </Link>
        )}
        {design.trial &&
          PAPER.map(({ kind, words }) => (
            <Download
              key={kind}
              className={`${BUTTON} inline-block`}
              href={`/api/v1/designs/${encodeURIComponent(design.name)}/${design.number}/paper/${kind}?units=${units}&address=${encodeURIComponent(window.location.href)}`}
            >
              {words}
            </Download>
          ))}
        <Send design={design} />
        {may && <About design={design} />}
        {design.state === "draft" && !design.why && (
          <button
            type="button"
            className={PRIMARY}
            disabled={state.isPending}
            onClick={() => state.mutate({ design, state: "house" })}
          >
            Sign it
          </button>
        )}
        {may && (design.author === me?.name || me?.admin || design.state === "house") && (
          <button
            type="button"
            className={BUTTON}
            disabled={state.isPending}
            onClick={() => state.mutate({ design, state: "withdrawn" })}
          >
            Withdraw
          </button>
        )}
      </div>
      <Refusal error={state.error} />
      {(design.state === "house" || design.state === "shipped") && (
        <p className="text-xs text-faint">
          In a rulebook: <code>use: design {design.called}</code>
        </p>
      )}
      <InJob design={design} fields={fields} />
      <Files design={design} allowed={may} />
      {design.used.length > 0 && (
        <section aria-label="Where it stands" className="text-xs">
          <h3 className="font-semibold">Stands</h3>
          {design.used.map((use) => (
            <p key={`${use.job} ${use.by} ${use.revision}`}>
              in {use.job} by {use.by}, R{use.revision}
              {use.connections.length > 0 && `: ${use.connections.slice(0, 8).join(", ")}`}
            </p>
          ))}
        </section>
      )}
      {design.revisions.length > 1 && (
        <section aria-label="Revisions" className="text-xs">
          <h3 className="font-semibold">Revisions</h3>
          {design.revisions.map((one) => (
            <button
              key={one.number}
              type="button"
              className={`mr-2 underline-offset-2 hover:underline ${one.number === design.number ? "font-semibold" : ""}`}
              onClick={() => pick(one)}
            >
              R{one.number} {one.state}
            </button>
          ))}
        </section>
      )}
    </article>
  );
}

/** One of the few things that a design asks, with what bounds it. */
function Field({
  field,
  value,
  put,
}: {
  field: WrittenDesign["fields"][number];
  value: string;
  put: (value: string) => void;
}) {
  const usual = String(field.usual ?? "");
  const bounds = [field.low && `at least ${field.low}`, field.high && `at most ${field.high}`].filter(Boolean);
  return (
    <div className="mt-1 flex items-center gap-2">
      <span className="w-32">{field.label}</span>
      {field.choices.length > 0 ? (
        <Choice
          label={field.label}
          value={value}
          options={[
            { value: "", words: `as usual: ${usual}` },
            ...field.choices.map((one) => ({ value: String(one), words: String(one) })),
          ]}
          onChange={put}
        />
      ) : (
        <input
          aria-label={field.label}
          className="w-28 rounded border border-line bg-white px-2 py-1"
          placeholder={usual}
          value={value}
          onChange={(event) => put(event.target.value)}
        />
      )}
      <span className="text-faint">{bounds.join(", ")}</span>
    </div>
  );
}

/** Which connections of a job it would hold. */
function InJob({ design, fields }: { design: WrittenDesign; fields: Record<string, string> }) {
  const { data: jobs } = useJobs();
  const [job, setJob] = useState("");
  const look = useDesignInJob();
  const own = (jobs ?? []).filter((one) => one.revision);
  const asked = job || own[0]?.name || "";
  if (!own.length) return null;
  const found = look.data;
  return (
    <section aria-label="In a job" className="text-xs">
      <h3 className="mb-1 font-semibold">Which connections of a job would it hold?</h3>
      <div className="flex gap-2">
        <Choice
          label="Job"
          value={asked}
          options={own.map((one) => ({ value: one.name, words: one.title || one.name }))}
          onChange={setJob}
        />
        <button
          type="button"
          className={BUTTON}
          disabled={look.isPending}
          onClick={() => look.mutate({ design, job: asked, fields })}
        >
          {look.isPending ? "Looking …" : "Look"}
        </button>
      </div>
      <Refusal error={look.error} />
      {found && (
        <>
          <p className="mt-2">
            It fits <b>{found.fitting}</b> and would hold <b>{found.holds}</b> of them; those are of {found.marks} marks
            now, {found.marks_saved} fewer then.
          </p>
          <table className="mt-1 w-full">
            <tbody>
              {found.items.slice(0, SHOWN).map((item) => (
                <tr key={item.connection} className="border-b border-line/60">
                  <td className="py-0.5 font-semibold">
                    <Link className="hover:underline" to={toConnection(asked, item.connection)}>
                      {item.connection}
                    </Link>
                  </td>
                  <td className={item.holds ? "text-pass" : "text-fail"}>{item.holds ? "✓ holds" : "✕ does not"}</td>
                  <td className="text-right">{item.reason ? "" : share(item.utilisation)}</td>
                  <td className="pl-2 text-faint">{item.reason || plain(item.check)}</td>
                  <td className="pl-2 text-right">
                    {item.holds && design.state !== "withdrawn" && (
                      <UseHere
                        key={`${design.called} ${asked} ${item.connection}`}
                        job={asked}
                        connection={item.connection}
                        design={design}
                        fields={fields}
                      />
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {found.items.length > SHOWN && (
            <p className="text-faint">
              the most used {SHOWN} of {found.fitting}
            </p>
          )}
        </>
      )}
    </section>
  );
}

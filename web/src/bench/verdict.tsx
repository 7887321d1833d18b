import { Tabs } from "radix-ui";
import { useState } from "react";
import { type Form, type Units, useDesigns, useTrialRemedies } from "../api/bench";
import type { TrialAnswer } from "../api/types";
import { BUTTON, PRIMARY, Refusal } from "../parts/dialog";
import { Utilisation } from "../parts/status";
import { figure, plain, STATUSES, sentence, strength, unitText } from "../words";
import { HERE } from "./actions";
import { Before } from "./before";
import { mapping } from "./form";
import { Like } from "./like";
import { Range } from "./range";

const TAB =
  "whitespace-nowrap border-b-2 border-transparent px-2.5 py-1.5 text-faint data-[state=active]:border-brass-dark data-[state=active]:font-semibold data-[state=active]:text-ink";

type Checked = TrialAnswer["checks"][number];

interface Of {
  form: Form; // as it is sent
  change: (parameters: Record<string, unknown>) => void;
  tried: TrialAnswer;
  units: Units;
  part: string;
  setPart: (part: string) => void;
}

/** How it stands, what would help, every check, detailing, and other designs. */
export function Verdict({ held, put, ...of }: Of & { held: Set<string>; put: (entries: Form) => void }) {
  const { tried, part, setPart } = of;
  const broken = tried.detailing.filter((rule) => !rule.ok);
  const failed = useFailed(tried);
  // what fails, then what failed when something last did, then the others as they govern
  const rank = (check: Checked) => (check.utilisation > 1 ? 0 : failed.has(nameOf(check)) ? 1 : 2);
  return (
    <>
      <Stands {...of} />
      <Tabs.Root defaultValue="checks" className="flex min-h-0 flex-1 flex-col">
        <Tabs.List className="flex border-b border-line px-2" aria-label="What to see of it">
          <Tabs.Trigger value="checks" className={TAB}>
            Checks
          </Tabs.Trigger>
          <Tabs.Trigger value="detailing" className={TAB}>
            Detailing {broken.length ? <span className="text-fail">✕ {broken.length}</span> : "✓"}
          </Tabs.Trigger>
          <Tabs.Trigger value="designs" className={TAB}>
            Size it
          </Tabs.Trigger>
          <Tabs.Trigger value="range" className={TAB}>
            Sweep
          </Tabs.Trigger>
        </Tabs.List>
        <Tabs.Content value="checks" className="min-h-0 flex-1 overflow-y-auto">
          {tried.checks
            .toSorted((a, b) => rank(a) - rank(b))
            .map((check) => (
              <details
                key={check.check}
                className={`border-b border-line/60 ${part === check.part ? "bg-brass/15" : ""}`}
                onToggle={() => setPart(check.part)}
              >
                <summary className="grid cursor-pointer list-none grid-cols-[minmax(0,1fr)_100px] gap-2 px-3 py-1 hover:bg-paper">
                  <span className="min-w-0">
                    <span className={check.utilisation > 1 ? "font-semibold text-fail" : "font-medium"}>
                      {check.utilisation > 1 && "✕ "}
                      {plain(check.check)}
                    </span>{" "}
                    {rank(check) === 1 && <span className="text-xs font-semibold text-pass">✓ holds now</span>}{" "}
                    <span className="text-xs text-faint">{check.clause}</span>
                    <span className="block truncate text-xs text-faint">
                      {figure(check.demand)} of {strength(check.strength)} {unitText(check.unit)} in {check.action}
                    </span>
                  </span>
                  <Utilisation value={check.limit && check.utilisation <= 1 ? 0 : check.utilisation} />
                </summary>
                <ol className="space-y-0.5 bg-white px-5 pb-2 font-mono text-[11px] leading-snug">
                  {(check.lines ?? []).map((line, k) => (
                    <li key={`${k}${line}`}>{unitText(line)}</li>
                  ))}
                </ol>
              </details>
            ))}
          {tried.notes.map((note) => (
            <p key={note} className="border-b border-line/60 px-3 py-1 text-xs text-faint">
              Note: {note}
            </p>
          ))}
        </Tabs.Content>
        <Tabs.Content value="detailing" className="min-h-0 flex-1 overflow-y-auto">
          {[...broken, ...tried.detailing.filter((rule) => rule.ok)].map((rule) => (
            <p
              key={`${rule.rule}${rule.part}${rule.says}`}
              className="flex justify-between gap-2 border-b border-line/60 px-3 py-1"
            >
              <span className="min-w-0">
                {rule.says ||
                  `${plain(rule.rule)}, ${rule.part}: ${figure(rule.given)} ${rule.unit}, ${rule.sense} ${figure(rule.limit)}`}{" "}
                <span className="text-xs text-faint">{rule.clause}</span>
              </span>
              <span className={`whitespace-nowrap ${rule.ok ? "text-pass" : "font-semibold text-fail"}`}>
                {rule.ok ? "✓ holds" : "✕ broken"}
              </span>
            </p>
          ))}
        </Tabs.Content>
        <Tabs.Content value="designs" className="min-h-0 flex-1 overflow-y-auto p-3">
          <Designs {...of} held={held} />
          <Like form={of.form} units={of.units} put={put} />
        </Tabs.Content>
        <Tabs.Content value="range" className="min-h-0 flex-1 overflow-y-auto p-3">
          <Range {...of} />
        </Tabs.Content>
      </Tabs.Root>
    </>
  );
}

/** The checks that failed the last time that any did, before this look. */
function useFailed(tried: TrialAnswer) {
  const [seen, setSeen] = useState({ of: tried, now: failing(tried), last: new Set<string>() });
  if (seen.of === tried) return seen.last;
  const next = { of: tried, now: failing(tried), last: seen.now.size ? seen.now : seen.last };
  setSeen(next);
  return next.last;
}

const nameOf = (check: Checked) => `${check.check} of ${check.part}`;
const failing = (tried: TrialAnswer) => new Set(tried.checks.filter((check) => check.utilisation > 1).map(nameOf));

/** The verdict; where it fails what fails first, and what would make it pass. */
function Stands({ form, change, tried, units }: Of) {
  const { data: remedies, isFetching } = useTrialRemedies(form, units, tried.status === "fail");
  const look = STATUSES[tried.status];
  return (
    <section aria-label="Verdict" className="border-b border-line px-3 py-2">
      <p className="flex items-baseline gap-2">
        <span className="text-base font-semibold" style={{ color: look.colour }}>
          {look.mark} {look.word}
        </span>
        {tried.status !== "unchecked" && <span className="font-semibold">{tried.utilisation.toFixed(2)}</span>}
        <span className="min-w-0 truncate text-xs text-faint" title={tried.summary}>
          {tried.summary}
        </span>
      </p>
      {tried.governing && (
        <p className="text-xs">
          {plain(tried.governing.check)} governs in {tried.governing.action}
          {tried.governing.place && tried.governing.place !== HERE && `, at ${tried.governing.place}`}
        </p>
      )}
      {tried.reason && <p className="text-xs text-fail">{sentence(tried.reason)}</p>}
      {tried.status === "fail" && (
        <div className="mt-1 space-y-1">
          {isFetching && <p className="text-xs text-faint">Looking for what would make it pass …</p>}
          {!isFetching && remedies?.length === 0 && (
            <p className="text-xs text-faint">No change of one or two sizes makes it pass. {sentence(tried.advice)}</p>
          )}
          {remedies?.map((remedy) => (
            <p key={remedy.words} className="flex items-center justify-between gap-2 text-xs">
              <span>{sentence(remedy.words)}</span>
              <button
                type="button"
                className={`${BUTTON} py-0.5`}
                onClick={() => change({ ...mapping(form, "parameters"), ...remedy.changes })}
              >
                Do it
              </button>
            </p>
          ))}
        </div>
      )}
    </section>
  );
}

/** Several designs by the standard's ladder beside each other. */
function Designs({ form, change, units, held }: Of & { held: Set<string> }) {
  const designs = useDesigns();
  const [target, setTarget] = useState("1.0");
  const share = Number(target.replace(",", "."));
  const sound = share >= 0.1 && share <= 1;
  return (
    <>
      <p className="mb-2 flex items-center gap-2">
        <span>up to</span>
        <input
          aria-label="Target"
          className="w-16 rounded border border-line bg-white px-2 py-1"
          value={target}
          onChange={(event) => setTarget(event.target.value)}
        />
        <span className="flex-1">of its strength</span>
        <button
          type="button"
          className={PRIMARY}
          disabled={!sound || designs.isPending}
          onClick={() => designs.mutate({ form, units, hold: [...held], target: share })}
        >
          {designs.isPending ? "Sizing …" : "Size it"}
        </button>
      </p>
      <p className="mb-2 text-xs text-faint">
        {held.size ? `Held: ${[...held].map(plain).join(", ")}.` : "Sizes that you hold stay (the boxes beside them)."}
      </p>
      <Refusal error={designs.error} />
      <Before asked={designs.variables?.form} form={form} again="Size it" />
      {designs.data?.length === 0 && <p className="text-fail">The standard has no sizes that could be judged here.</p>}
      {designs.data?.map((one) => (
        <section key={one.names.join()} className="mb-2 rounded border border-line bg-white p-2">
          <p className="flex items-baseline justify-between gap-2">
            <b>{one.names.join(", ")}</b>
            <Utilisation value={one.utilisation} />
          </p>
          <p>{one.summary}</p>
          <p className="text-xs text-faint">
            {one.bolts > 0 && `${one.bolts} bolts, `}
            {one.rods > 0 && `${one.rods} rods, `}
            {one.steel.toFixed(2)} kg steel, {one.weld.toFixed(2)} kg weld; {plain(one.check)} governs
          </p>
          <button type="button" className={`${BUTTON} mt-1 py-0.5`} onClick={() => change(one.parameters)}>
            {one.passes ? "Take it" : "Take it, it does not pass"}
          </button>
        </section>
      ))}
    </>
  );
}

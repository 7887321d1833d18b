import { Link } from "react-router";
import { useAddress } from "../address";
import { useStandards } from "../api/changes";
import { type Sought, useHouseDesign, useLibrary } from "../api/designs";
import type { HouseDesign } from "../api/types";
import { One } from "../designs/one";
import { picture } from "../designs/picture";
import { Take } from "../designs/take";
import { Choice } from "../parts/choice";
import { Trouble, Waiting } from "../parts/empty";
import { Scroll } from "../parts/scroll";
import { SYSTEMS } from "../units";
import { plain } from "../words";

const STATES = [
  { value: "", words: "all but withdrawn" },
  { value: "house", words: "the house’s" },
  { value: "shipped", words: "shipped" },
  { value: "draft", words: "my drafts" },
  { value: "withdrawn", words: "withdrawn" },
];
const SORTS = [
  { value: "name", words: "by name" },
  { value: "steel", words: "lightest first" },
  { value: "-shear", words: "strongest first" },
  { value: "-made", words: "newest first" },
];
export const STATE: Record<HouseDesign["state"], string> = {
  draft: "draft",
  house: "signed",
  shipped: "shipped",
  withdrawn: "withdrawn",
};

const USUAL: Record<string, string> = { sort: "name", units: "us" };

/** Designs of the house: found at the left, as pictures; one of them at the right. */
export default function DesignsStation() {
  const [address, say] = useAddress();
  const sought = Object.fromEntries(
    (["text", "standard", "framing", "tag", "V", "state", "sort", "units"] as const).map((name) => [
      name,
      address.get(name) ?? USUAL[name] ?? "",
    ]),
  ) as unknown as Sought;
  const { data, error, refetch } = useLibrary(sought);
  const { data: standards } = useStandards();
  const [name, number] = [address.get("name") ?? "", Number(address.get("number") ?? 0)];
  const { data: one } = useHouseDesign(name, number, sought.units);
  const pick = (design: Pick<HouseDesign, "name" | "number">) => {
    say("name", design.name);
    say("number", String(design.number));
  };
  const framings = [...new Set((standards?.items ?? []).flatMap((standard) => standard.framings))];
  return (
    <main className="flex h-full flex-col">
      <header className="flex items-center gap-2 bg-rail px-4 py-2 text-white">
        <Link to="/" className="text-sm font-semibold tracking-wide text-brass">
          Hand Rail
        </Link>
        <h1 className="mr-2 whitespace-nowrap font-semibold">House designs</h1>
        <Take taken={pick} />
        <span className="ml-auto text-ink">
          <Choice label="Units" value={sought.units} options={SYSTEMS} onChange={(value) => say("units", value)} />
        </span>
        <Link to="/-/catalogue" className="text-xs text-white/75 underline-offset-2 hover:underline">
          Catalogue
        </Link>
        <Link to="/-/bench" className="text-xs text-white/75 underline-offset-2 hover:underline">
          Bench
        </Link>
      </header>
      <div className="flex flex-wrap items-center gap-2 border-b border-line bg-sheet px-4 py-2">
        <input
          aria-label="Find"
          placeholder="find a word, section, bolt …"
          className="w-52 rounded border border-line bg-white px-2 py-1"
          value={sought.text}
          onChange={(event) => say("text", event.target.value)}
        />
        <input
          aria-label="Shear that it holds"
          placeholder="holds V, like 40 kip"
          className="w-36 rounded border border-line bg-white px-2 py-1"
          value={sought.V}
          onChange={(event) => say("V", event.target.value)}
        />
        <Choice
          label="Standard"
          value={sought.standard}
          options={[
            { value: "", words: "every standard" },
            ...(standards?.items ?? []).map((s) => ({ value: s.name, words: s.title })),
          ]}
          onChange={(value) => say("standard", value)}
        />
        <Choice
          label="Framing"
          value={sought.framing}
          options={[{ value: "", words: "every framing" }, ...framings.map((f) => ({ value: f, words: plain(f) }))]}
          onChange={(value) => say("framing", value)}
        />
        <Choice label="State" value={sought.state} options={STATES} onChange={(value) => say("state", value)} />
        <Choice label="Order" value={sought.sort} options={SORTS} onChange={(value) => say("sort", value)} />
      </div>
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_480px]">
        <Scroll label="Designs" className="min-h-0 p-4">
          {error && "status" in error && error.status === 422 ? (
            <p role="alert" className="text-unchecked">
              {error.message}
            </p>
          ) : (
            error && <Trouble error={error} retry={refetch} />
          )}
          {!error && !data && <Waiting what="designs" />}
          {data && (
            <>
              <p className="mb-2 text-xs text-faint">
                {data.total === 1 ? "1 design" : `${data.total} designs`}
                {data.items.length < data.total && `, the first ${data.items.length}`}
                {data.unchecked > 0 && `; ${data.unchecked} not looked at by our own code yet`}
                {data.tags.length > 0 && (
                  <span className="ml-2">
                    {data.tags.map((tag) => (
                      <button
                        key={tag}
                        type="button"
                        aria-pressed={sought.tag === tag}
                        className={`mr-1 rounded border px-1.5 py-0.5 ${sought.tag === tag ? "border-brass font-semibold text-ink" : "border-line"}`}
                        onClick={() => say("tag", sought.tag === tag ? "" : tag)}
                      >
                        {tag}
                      </button>
                    ))}
                  </span>
                )}
              </p>
              <ul className="grid grid-cols-[repeat(auto-fill,minmax(230px,1fr))] gap-3">
                {data.items.map((design) => (
                  <li key={design.called}>
                    <Card
                      design={design}
                      on={design.name === name && design.number === number}
                      act={() => pick(design)}
                    />
                  </li>
                ))}
              </ul>
              {data.total === 0 && (
                <p className="text-faint">
                  Nothing like that. From the Bench, or a connection, “House design” puts one here.
                </p>
              )}
            </>
          )}
        </Scroll>
        <section aria-label="One design" className="min-h-0 overflow-y-auto border-l border-line bg-sheet p-4">
          {one && name ? (
            <One key={one.called} design={one} units={sought.units} pick={pick} />
          ) : (
            <p className="text-faint">Pick a design to see what it says, fits and holds.</p>
          )}
        </section>
      </div>
    </main>
  );
}

function Card({ design, on, act }: { design: HouseDesign; on: boolean; act: () => void }) {
  const shear = design.holds.find((one) => one.action === "V") ?? design.holds[0];
  return (
    <button
      type="button"
      aria-pressed={on}
      onClick={act}
      className={`block w-full rounded border bg-white p-2 text-left ${on ? "border-brass ring-1 ring-brass" : "border-line"}`}
    >
      <img
        src={picture(design)}
        alt=""
        loading="lazy"
        className="mb-1 h-32 w-full border-b border-line/60 object-contain object-center"
      />
      <span className="flex items-baseline gap-2">
        <b className="min-w-0 flex-1 truncate">{design.called}</b>
        <span className={`text-[11px] ${design.state === "draft" ? "text-unchecked" : "text-faint"}`}>
          {STATE[design.state]}
        </span>
      </span>
      <span className="block truncate text-xs">{design.title || design.summary}</span>
      <span className="block truncate text-xs text-faint">
        {[design.section, design.support].filter(Boolean).join(" to ")}
      </span>
      <span className="block truncate text-xs">
        {design.why ? (
          <span className="text-fail">✕ {design.why}</span>
        ) : (
          shear && (
            <>
              {shear.words} <b>{shear.text}</b> alone
            </>
          )
        )}
        {design.differs && <span className="text-unchecked"> △ differs from what was published</span>}
        {!design.checked && <span className="text-unchecked"> ? not looked at yet</span>}
      </span>
    </button>
  );
}

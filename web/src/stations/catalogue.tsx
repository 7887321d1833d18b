import { Link } from "react-router";
import { useCatalogue } from "../api/catalogue";
import { useMe } from "../api/queries";
import { Entries } from "../catalogue/entries";
import { KINDS } from "../catalogue/kinds";
import { Named } from "../catalogue/named";
import { NewEntry } from "../catalogue/new-entry";
import { Trouble, Waiting } from "../parts/empty";
import { Scroll } from "../parts/scroll";

/** What the house has beside the shipped tables, by kind, with its source and who approved it. */
export default function CatalogueStation() {
  const { data, error, refetch } = useCatalogue();
  const { data: me } = useMe();
  return (
    <main className="flex h-full flex-col">
      <header className="flex items-center gap-3 bg-rail px-4 py-2 text-white">
        <Link to="/" className="text-sm font-semibold tracking-wide text-brass">
          Hand Rail
        </Link>
        <h1 className="font-semibold">House catalogue</h1>
        <p className="text-xs text-white/75">what the shipped tables have not; every result that has one says so</p>
        <span className="ml-auto flex gap-3 text-xs text-white/75">
          <Link to="/-/bench" className="underline-offset-2 hover:underline">
            Bench
          </Link>
          <Link to="/-/designs" className="underline-offset-2 hover:underline">
            House designs
          </Link>
        </span>
      </header>
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_300px]">
        <Scroll label="Entries" className="min-h-0 p-4">
          {error && <Trouble error={error} retry={refetch} />}
          {!error && !data && <Waiting what="the catalogue" />}
          {data && (
            <>
              <div className="mb-3 flex items-center gap-3">
                <p className="flex-1 text-xs text-faint">
                  An engineer keeps a draft, an administrator approves it; then rules, decisions, models and the Bench
                  may name it.
                </p>
                <NewEntry kinds={data.kinds} />
              </div>
              {Object.keys(data.kinds).map((kind) => {
                const items = data.items.filter((entry) => entry.kind === kind);
                return (
                  <section key={kind} aria-label={KINDS[kind]?.all ?? kind} className="mb-5">
                    <h2 className="font-semibold">
                      {KINDS[kind]?.all ?? kind}{" "}
                      <span className="text-xs font-normal text-faint">
                        {items.length ? KINDS[kind]?.used : "none"}
                      </span>
                    </h2>
                    {items.length > 0 && <Entries items={items} me={me} />}
                  </section>
                );
              })}
            </>
          )}
        </Scroll>
        <aside className="min-h-0 overflow-y-auto border-l border-line bg-sheet p-4">
          <Named />
        </aside>
      </div>
    </main>
  );
}

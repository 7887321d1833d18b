import { type FormEvent, useState } from "react";
import { useDebounce } from "use-debounce";
import { useSend, useWouldBe } from "../api/transmittals";
import { FIELD, PRIMARY, Refusal } from "../parts/dialog";
import { Changes, Counts } from "./parts";

/** What would leave the house, as it is asked for; and the word that it does. */
export function Sending({ job }: { job: string }) {
  const [to, setTo] = useState("");
  const [why, setWhy] = useState("");
  const [where, setWhere] = useState("");
  const [all, setAll] = useState(false); // what is not released, too
  const [anyway, setAnyway] = useState("");
  const [asked] = useDebounce(where.trim(), 400);
  const found = useWouldBe(job, asked, all);
  const send = useSend(job);
  const ready = to.trim() && why.trim() && (!all || anyway.trim()) && found.data && asked === where.trim();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    send.mutate(
      { to, why, where: asked, anyway: all ? anyway : "" },
      {
        onSuccess: () => {
          setWhy("");
          setAnyway("");
          setAll(false);
        },
      },
    );
  };
  return (
    <form onSubmit={submit} className="grid grid-cols-[340px_1fr] gap-6 rounded bg-sheet p-4">
      <div className="space-y-3">
        <label className="block">
          <span className="text-faint">To</span>
          <input className={FIELD} value={to} onChange={(e) => setTo(e.target.value)} maxLength={200} />
        </label>
        <label className="block">
          <span className="text-faint">What for</span>
          <input
            className={FIELD}
            value={why}
            onChange={(e) => setWhy(e.target.value)}
            maxLength={2000}
            placeholder="for approval, for fabrication"
          />
        </label>
        <label className="block">
          <span className="text-faint">Which connections</span>
          <input
            className={FIELD}
            value={where}
            onChange={(e) => setWhere(e.target.value)}
            placeholder="all; or level=2"
            spellCheck={false}
          />
        </label>
        <label className="flex gap-2">
          <input type="checkbox" checked={all} onChange={(e) => setAll(e.target.checked)} />
          <span>What is not released goes along, marked so</span>
        </label>
        {all && (
          <label className="block">
            <span className="text-faint">Why it goes anyway</span>
            <input className={FIELD} value={anyway} onChange={(e) => setAnyway(e.target.value)} maxLength={2000} />
          </label>
        )}
        <Refusal error={send.error} />
        <button type="submit" className={PRIMARY} disabled={!ready || send.isPending}>
          {send.isPending ? "Making it …" : `Make ${found.data?.name ?? "it"}`}
        </button>
      </div>
      <section aria-label="What would be in it" className="min-w-0">
        {found.error ? (
          <p className="text-fail">{found.error.message}</p>
        ) : found.data ? (
          <>
            <Counts of={found.data} />
            {found.data.left_out.map((left) => (
              <p key={left.why} className="text-faint">
                {left.connections} {left.why} are left out
              </p>
            ))}
            <Changes of={found.data} />
          </>
        ) : (
          <p className="text-faint">looking what it would hold …</p>
        )}
      </section>
    </form>
  );
}

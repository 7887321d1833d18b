import { type FormEvent, Fragment, useState } from "react";
import { type Alternative, useAlternatives, useStandards } from "../api/changes";
import type { Connection, SideBySide } from "../api/types";
import { BUTTON, FIELD, Frame } from "../parts/dialog";
import { StatusMark, Utilisation } from "../parts/status";
import { INCH } from "../units";
import { plain, sentence, WEIGHT } from "../words";
import { Reason } from "./keeping";
import { Sweep } from "./sweep";

const MOST = 6;

/** Other standards and other sizes side by side with what stands; one may be kept as an override. */
export function Alternatives({ job, data }: { job: string; data: Connection }) {
  const standards = (useStandards().data?.items ?? []).filter(
    (s) => s.framings.includes(data.framing) && s.name !== data.standard,
  );
  const [own, setOwn] = useState<Alternative[]>([]);
  const wanted = [...standards.map((s) => ({ name: s.title, standard: s.name, parameters: {} })), ...own].slice(-MOST);
  const { data: found, error, isFetching } = useAlternatives(job, data.connection, data.version, wanted);
  if (!standards.length && !data.standard) return null; // none is made for how it is framed
  return (
    <div>
      <p className="text-xs text-faint">
        Each other standard as the shop's practice and its own ladder size it for these forces; nothing is kept until
        you keep it.
      </p>
      {error && <p className="mt-2 text-fail">{error.message}</p>}
      {!found && isFetching && <p className="mt-2 text-faint">Sizing the others …</p>}
      {found && <Table job={job} data={data} rows={found.alternatives} wanted={wanted} />}
      {data.standard && <Try add={(one) => setOwn((before) => [...before, one].slice(-3))} standard={data.standard} />}
      <Take job={job} data={data} />
      {data.standard && data.parameters.length > 0 && <Sweep job={job} data={data} />}
    </div>
  );
}

function Table({
  job,
  data,
  rows,
  wanted,
}: {
  job: string;
  data: Connection;
  rows: SideBySide[];
  wanted: Alternative[];
}) {
  const us = data.system === "us";
  const weight = WEIGHT[data.system];
  const mass = (kg: number | null, digits: number) =>
    kg ? `${(kg * weight.scale).toFixed(us ? digits : digits + 1)} ${weight.unit}` : "";
  const length = (mm: number | null) => (mm ? (us ? `${(mm / INCH).toFixed(1)} in` : `${mm.toFixed(0)} mm`) : "");
  const head = [
    "Alternative",
    "Utilisation",
    "Fits",
    "Field bolts",
    "Shop bolts",
    "Steel",
    "Weld",
    "Field weld",
    "Keep",
  ];
  return (
    <table className="mt-3 w-full border-collapse text-left">
      <thead>
        <tr>
          {head.map((name) => (
            <th key={name} className="border-b border-line px-2 py-1 text-xs font-normal text-faint">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row, n) => {
          const of = wanted[n - (rows.length - wanted.length)];
          return (
            <Fragment key={row.name}>
              <tr className="align-baseline">
                <td className="px-2 pt-1.5 font-medium">{plain(row.name)}</td>
                <td className="px-2 pt-1.5">
                  <StatusMark status={row.status} />
                  <Utilisation value={row.utilisation} />
                </td>
                <td className="px-2 pt-1.5">{row.fits ? "✓" : <span className="text-fail">✕</span>}</td>
                <td className="px-2 pt-1.5">{row.field_bolts ?? ""}</td>
                <td className="px-2 pt-1.5">{row.shop_bolts ?? ""}</td>
                <td className="whitespace-nowrap px-2 pt-1.5">{mass(row.steel, 1)}</td>
                <td className="whitespace-nowrap px-2 pt-1.5">{mass(row.weld, 2)}</td>
                <td className="px-2 pt-1.5">{length(row.field_weld)}</td>
                <td className="px-2 pt-1.5">{of && <Keep job={job} data={data} row={row} of={of} />}</td>
              </tr>
              <tr className="border-b border-line/60">
                <td colSpan={head.length} className="px-2 pb-1.5 text-xs text-faint">
                  {row.summary}
                  {row.check && ` · ${plain(row.check)} governs`}
                  {row.reason && <p className="text-fail">{sentence(row.reason)}</p>}
                </td>
              </tr>
            </Fragment>
          );
        })}
      </tbody>
    </table>
  );
}

function Keep({ job, data, row, of }: { job: string; data: Connection; row: SideBySide; of: Alternative }) {
  const [open, setOpen] = useState(false);
  const changes = {
    ...(of.standard && of.standard !== data.standard ? { standard: of.standard } : {}),
    ...of.parameters,
  };
  return (
    <Frame
      trigger="keep"
      title={`Keep ${plain(row.name)} for ${data.connection}`}
      words={`${row.summary}, at ${row.utilisation.toFixed(2)} in place of ${data.utilisation.toFixed(2)}. It holds against every run until somebody clears it.`}
      open={open}
      setOpen={setOpen}
    >
      <Reason job={job} data={data} wanted={{ changes }} done={() => setOpen(false)} />
    </Frame>
  );
}

/** Other sizes of one's own: rows = 5, plate_thickness = 3/8 in. */
function Try({ add, standard }: { add: (one: Alternative) => void; standard: string }) {
  const [text, setText] = useState("");
  const pairs = text
    .split(/[,;]/)
    .map((pair) => pair.split("=").map((part) => part.trim()))
    .filter(([name, value]) => name && value);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    add({ name: text.trim(), standard: "", parameters: Object.fromEntries(pairs) });
    setText("");
  };
  return (
    <form onSubmit={submit} className="mt-4 flex items-end gap-2">
      <label className="flex-1">
        <span className="text-faint">Other sizes of this {plain(standard)} to set beside it</span>
        <input
          value={text}
          onChange={(e) => setText(e.target.value)}
          placeholder="rows = 5, bolt = 7/8 A325-N"
          className={FIELD}
        />
      </label>
      <button type="submit" className={BUTTON} disabled={!pairs.length}>
        Try
      </button>
    </form>
  );
}

/** The sizes that were chosen for another connection, for this one. */
function Take({ job, data }: { job: string; data: Connection }) {
  const [from, setFrom] = useState("");
  const [open, setOpen] = useState(false);
  return (
    <div className="mt-4 flex items-end gap-2">
      <label className="flex-1">
        <span className="text-faint">Take over the sizes of another connection</span>
        <input value={from} onChange={(e) => setFrom(e.target.value)} placeholder="B7.i" className={FIELD} />
      </label>
      {from.trim() && (
        <Frame
          trigger="Take over"
          look={BUTTON}
          title={`Sizes of ${from.trim()} for ${data.connection}`}
          words="What was chosen for it, its standard too, is set here and checked at once."
          open={open}
          setOpen={setOpen}
        >
          <Reason job={job} data={data} wanted={{ take: from.trim() }} done={() => setOpen(false)} />
        </Frame>
      )}
    </div>
  );
}

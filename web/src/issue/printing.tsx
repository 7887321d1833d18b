import { Dialog } from "radix-ui";
import { useState } from "react";
import { usePutProfile } from "../api/profiles";
import type { Profile } from "../api/types";
import { BUTTON, FIELD, Frame, PRIMARY, Refusal } from "../parts/dialog";

const read = (file: File) =>
  new Promise<string>((done, fail) => {
    const reader = new FileReader();
    reader.onload = () => done(String(reader.result).split(",")[1] ?? "");
    reader.onerror = () => fail(reader.error);
    reader.readAsDataURL(file);
  });

/** How the house prints, as an administrator says it: the firm, its emblem, and the sections that are chosen. */
export function Printing({
  own,
  name,
  sections,
  lines,
}: {
  own?: Profile;
  name: string;
  sections: string[];
  lines: string;
}) {
  const [open, setOpen] = useState(false);
  const [called, setCalled] = useState(name);
  const [firm, setFirm] = useState("");
  const [registration, setRegistration] = useState("");
  const [emblem, setEmblem] = useState<string | null>(null);
  const put = usePutProfile();
  const show = (on: boolean) => {
    setCalled(name);
    setFirm(own?.firm.join("\n") ?? "");
    setRegistration(own?.registration ?? "");
    setEmblem(null);
    setOpen(on);
  };
  const keep = () =>
    put.mutate(
      {
        name: called.trim(),
        firm: firm.split("\n").filter((line) => line.trim()),
        registration,
        emblem,
        sections,
        lines,
      },
      { onSuccess: () => setOpen(false) },
    );
  return (
    <Frame
      trigger="Keep as a profile …"
      look={BUTTON}
      title="How the house prints"
      words="The firm's lines stand where a job has none of its own. The profile called usual holds where none is named."
      open={open}
      setOpen={show}
    >
      <label className="block">
        <span className="text-faint">Called</span>
        <input className={FIELD} value={called} onChange={(event) => setCalled(event.target.value)} maxLength={64} />
      </label>
      <label className="mt-2 block">
        <span className="text-faint">The firm: its name, its address, a line each</span>
        <textarea className={FIELD} rows={3} value={firm} onChange={(event) => setFirm(event.target.value)} />
      </label>
      <label className="mt-2 block">
        <span className="text-faint">Registration</span>
        <input
          className={FIELD}
          value={registration}
          onChange={(event) => setRegistration(event.target.value)}
          maxLength={200}
        />
      </label>
      <label className="mt-2 block">
        <span className="text-faint">Emblem, a PNG or SVG</span>
        <input
          type="file"
          accept=".png,.svg"
          className={FIELD}
          onChange={async (event) => setEmblem(event.target.files?.[0] ? await read(event.target.files[0]) : null)}
        />
      </label>
      {own?.emblem && emblem === null && (
        <p className="mt-2 flex items-center gap-3">
          <img src={`/api/v1/profiles/${encodeURIComponent(own.name)}/emblem`} alt="Emblem" className="h-8" />
          <button type="button" className={BUTTON} onClick={() => setEmblem("")}>
            without it
          </button>
        </p>
      )}
      <p className="mt-2 text-faint">
        Sections: {sections.join(", ")}; worked lines: {lines}.
      </p>
      <Refusal error={put.error} />
      <div className="mt-4 flex justify-end gap-2">
        <Dialog.Close className={BUTTON}>Not now</Dialog.Close>
        <button type="button" className={PRIMARY} disabled={put.isPending || !called.trim()} onClick={keep}>
          Keep
        </button>
      </div>
    </Frame>
  );
}

import { Link, useLocation } from "react-router";
import { StatusMark, Utilisation } from "../parts/status";
import { toConnection } from "../paths";
import { length as lengthText, plain } from "../words";
import { CloseUp } from "./space";
import { placeOf, type Whole } from "./whole";

const FRAME = "absolute right-4 top-14 w-80 rounded-md border border-line bg-sheet p-3 shadow-lg";
const STEP = "rounded border border-line px-2 py-0.5 hover:bg-paper";

/** A joint that is picked: close up, with its connections, and the members that meet there. */
export function JointCard({
  job,
  joint,
  whole,
  onClose,
  onMember,
  onNear,
}: {
  job: string;
  joint: string;
  whole: Whole;
  onClose: () => void;
  onMember: (member: string) => void;
  onNear?: () => void;
}) {
  const { search } = useLocation();
  const own = whole.at.get(joint) ?? [];
  const node = whole.node.get(joint) ?? -1;
  if (node < 0) return null;
  const solid = own.find((c) => c.utilisation > 0);
  return (
    <aside className={FRAME} aria-label={`Joint ${joint}`}>
      <Title onClose={onClose}>
        Joint {joint} <span className="font-normal text-faint">{placeOf(whole, joint)}</span>
      </Title>
      <div className="mt-2 h-44 overflow-hidden rounded border border-line">
        <CloseUp key={joint} whole={whole} joint={joint} />
      </div>
      <p className="mt-2 flex flex-wrap gap-1 text-xs">
        {whole.meeting[node].map((k) => {
          const m = whole.model.members[k];
          return (
            <button type="button" key={m.member} className={STEP} onClick={() => onMember(m.member)}>
              {m.member} <span className="text-faint">{m.section}</span>
            </button>
          );
        })}
        {onNear && (
          <button type="button" className={`${STEP} text-brass-dark`} onClick={onNear}>
            go close
          </button>
        )}
        {solid && (
          <Link
            to={`${toConnection(job, solid.connection, `model${search}`)}&view=3d`}
            className={`${STEP} text-brass-dark`}
          >
            joint in 3D
          </Link>
        )}
      </p>
      {own.length === 0 && <p className="mt-2 text-faint">nothing is fastened here</p>}
      <ul className="mt-2 max-h-56 overflow-y-auto">
        {own.map((c) => (
          <li key={c.connection} className="border-t border-line/60">
            <Link to={toConnection(job, c.connection, `model${search}`)} className="block py-1.5 hover:bg-paper">
              <span className="flex items-center justify-between">
                <b>
                  {c.connection}{" "}
                  <span className="font-normal">{whole.model.members[whole.member.get(c.member) ?? 0].section}</span>
                </b>
                {c.utilisation > 0 ? <Utilisation value={c.utilisation} /> : null}
              </span>
              <span className="flex justify-between">
                <span className="text-faint">{plain(c.framing)}</span>
                <StatusMark status={c.status} />
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </aside>
  );
}

/** A member that is picked, with a step to either end. */
export function MemberCard({
  member,
  whole,
  onClose,
  onJoint,
  onNear,
}: {
  member: string;
  whole: Whole;
  onClose: () => void;
  onJoint: (joint: string) => void;
  onNear?: () => void;
}) {
  const { model } = whole;
  const index = whole.member.get(member) ?? -1;
  const m = model.members[index];
  if (!m) return null;
  const [a, b] = [model.nodes[m.i], model.nodes[m.j]];
  const long = Math.hypot(...a.xyz.map((v, k) => v - b.xyz[k]));
  const pieces = model.members.filter((o) => o.piece === m.piece).map((o) => o.member);
  return (
    <aside className={FRAME} aria-label={`Member ${member}`}>
      <Title onClose={onClose}>
        {m.role} {m.member}
      </Title>
      <p className="mt-1">
        {m.section} <span className="text-faint">{m.grade}</span> · {lengthText(long, model.system)} long
      </p>
      {pieces.length > 1 && <p className="mt-1 text-faint">one piece of steel: {pieces.join(", ")}</p>}
      <div className="mt-2 flex flex-col gap-1 text-xs">
        {[["i", a] as const, ["j", b] as const].map(([end, node]) => {
          const c = (whole.at.get(node.node) ?? []).find((o) => o.connection === `${m.member}.${end}`);
          return (
            <button
              type="button"
              key={end}
              className={`${STEP} flex justify-between gap-2 text-left`}
              onClick={() => onJoint(node.node)}
            >
              <span>
                end {end}: joint {node.node} <span className="text-faint">{placeOf(whole, node.node)}</span>
              </span>
              {c && <StatusMark status={c.status} word={false} />}
            </button>
          );
        })}
        {onNear && (
          <button type="button" className={`${STEP} text-brass-dark`} onClick={onNear}>
            go close
          </button>
        )}
      </div>
    </aside>
  );
}

function Title({ onClose, children }: { onClose: () => void; children: React.ReactNode }) {
  return (
    <div className="flex items-baseline justify-between">
      <h2 className="font-semibold">{children}</h2>
      <button type="button" aria-label="Close" onClick={onClose} className="px-1 text-faint">
        ✕
      </button>
    </div>
  );
}

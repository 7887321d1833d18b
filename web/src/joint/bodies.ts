import * as THREE from "three";
import type { JointSolids } from "../api/types";
import { heat } from "../model/colours";

export type Colouring = "kind" | "utilisation";

/** One body of a joint, ready to be drawn: a member's end, or a piece, bolt, fillet, rod of a connection. */
export interface Body {
  key: string;
  connection: string; // that brings it; empty for a member
  name: string;
  part: string;
  kind: string;
  words: string;
  own: boolean; // of the connection whose page it is, or its member
  used?: number;
  broken: boolean;
  shape: THREE.BufferGeometry;
  edges: THREE.BufferGeometry;
  centre: THREE.Vector3;
}

export const KINDS: Record<string, string> = {
  member: "#a9b4b0",
  piece: "#d6ad5c",
  bolt: "#56636b",
  weld: "#b5651d",
  rod: "#56636b",
  bar: "#8a5a44",
  ground: "#cfcac0",
};
export const UNUSED = "#c3c9c2";
const SHARP = 28; // degrees between two faces whose edge is drawn
const MEMBERS = ["beam", "support", "column", "member"];

export function geometry(points: number[], faces: number[]) {
  const shared = new THREE.BufferGeometry();
  shared.setAttribute("position", new THREE.Float32BufferAttribute(points, 3));
  shared.setIndex(faces);
  const shape = shared.toNonIndexed(); // each face its own normal: what is plane is seen to be plane
  shape.computeVertexNormals();
  return {
    shape,
    edges: new THREE.EdgesGeometry(shared, SHARP),
    box: new THREE.Box3().setFromBufferAttribute(shared.getAttribute("position") as THREE.BufferAttribute),
  };
}

/** Everything that a joint is made of. */
export function bodiesOf(joint: JointSolids, member: string): Body[] {
  const own = joint.connections.find((c) => c.connection === joint.connection);
  const found: Body[] = joint.members.map((m) => {
    const { box, ...drawn } = geometry(m.points, m.faces);
    const mine = m.member === member;
    return {
      key: `member ${m.member}`,
      connection: "",
      name: m.member,
      part: mine ? m.part : "support",
      kind: "member",
      words: m.words,
      own: mine,
      used: mine ? own?.used[m.part] : undefined,
      broken: false,
      centre: box.getCenter(new THREE.Vector3()),
      ...drawn,
    };
  });
  for (const c of joint.connections)
    for (const s of c.solids) {
      const { box, ...drawn } = geometry(s.points, s.faces);
      found.push({
        key: `${c.connection} ${s.name}`,
        connection: c.connection,
        name: s.name,
        part: s.part,
        kind: s.kind,
        words: s.words,
        own: c.connection === joint.connection,
        used: c.used[s.part],
        broken: c.broken.includes(s.part),
        centre: box.getCenter(new THREE.Vector3()),
        ...drawn,
      });
    }
  return found;
}

export function colourOf(body: Body, by: Colouring): string {
  if (by === "kind") return KINDS[body.kind] ?? UNUSED;
  if (body.broken) return heat(2);
  return body.used === undefined || (body.kind === "member" && MEMBERS.includes(body.part) && !body.used)
    ? UNUSED
    : heat(body.used);
}

/** The box around what the connection itself brings: what is looked at first. */
export function boxOf(bodies: Body[], wanted: (body: Body) => boolean): THREE.Box3 {
  const box = new THREE.Box3();
  for (const body of bodies) {
    if (!wanted(body)) continue;
    body.shape.computeBoundingBox();
    if (body.shape.boundingBox) box.union(body.shape.boundingBox);
  }
  return box;
}

/** How far a body is moved when the joint is drawn apart: away from the middle, so far as it is from there already. */
export function apart(body: Body, middle: THREE.Vector3, by: number): THREE.Vector3 {
  if (body.kind === "ground" || !by) return new THREE.Vector3();
  const way = body.centre.clone().sub(middle);
  if (body.kind === "member") way.multiplyScalar(0.5);
  return way.multiplyScalar(by);
}

/** The corner of a triangle that is nearest to a place on it. */
export function corner(shape: THREE.BufferGeometry, face: THREE.Face | null | undefined, at: THREE.Vector3) {
  const points = shape.getAttribute("position");
  let best = at.clone();
  let least = Number.POSITIVE_INFINITY;
  for (const k of face ? [face.a, face.b, face.c] : []) {
    const one = new THREE.Vector3().fromBufferAttribute(points, k);
    const far = one.distanceTo(at);
    if (far < least) [best, least] = [one, far];
  }
  return best;
}

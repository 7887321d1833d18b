import { useFrame, useThree } from "@react-three/fiber";
import { useEffect, useMemo, useRef } from "react";
import * as THREE from "three";
import { mergeGeometries } from "three/addons/utils/BufferGeometryUtils.js";
import type { JointSolids } from "../api/types";
import { geometry, KINDS } from "../joint/bodies";
import { toSpace } from "./bars";
import type { Connection, Whole } from "./whole";

const CLOSE = 14; // metres from the eye within which joints are shown as they are made
const MOST = 6; // of them, the nearest
const RESTS = 200; // ms that the view stands before any is asked for
const EDGE = "#26322e";
const SOLID = ["piece", "bolt", "weld", "rod"] as const;

/** Tells which joints are near the eye, each by one of its connections that has sizes, once the view stands. */
export function Eye({
  whole,
  connections,
  onNear,
}: {
  whole: Whole;
  connections: Connection[];
  onNear: (connections: string[]) => void;
}) {
  const places = useMemo(() => {
    const first = new Map<string, { connection: string; at: THREE.Vector3 }>();
    for (const c of connections) {
      const node = whole.model.nodes[whole.node.get(c.joint) ?? -1];
      if (node && ["pass", "fail"].includes(c.status) && !first.has(c.joint))
        first.set(c.joint, { connection: c.connection, at: toSpace(node.xyz) });
    }
    return [...first.values()];
  }, [whole, connections]);
  const { camera, invalidate } = useThree();
  const was = useRef({ said: "", seen: "", timer: 0 });
  useEffect(() => () => window.clearTimeout(was.current.timer), []);
  useFrame(() => {
    const seen = [...camera.matrixWorldInverse.elements].map((v) => v.toFixed(3)).join();
    if (seen === was.current.seen) return;
    was.current.seen = seen;
    window.clearTimeout(was.current.timer);
    was.current.timer = window.setTimeout(() => {
      const near = nearest(places, camera);
      if (near.join() === was.current.said) return;
      was.current.said = near.join();
      onNear(near);
      invalidate();
    }, RESTS);
  });
  return null;
}

function nearest(places: { connection: string; at: THREE.Vector3 }[], camera: THREE.Camera) {
  const within = new THREE.Frustum().setFromProjectionMatrix(
    new THREE.Matrix4().multiplyMatrices(camera.projectionMatrix, camera.matrixWorldInverse),
  );
  return places
    .map((p) => ({ ...p, far: p.at.distanceTo(camera.position) }))
    .filter((p) => p.far < CLOSE && within.containsPoint(p.at))
    .sort((a, b) => a.far - b.far)
    .slice(0, MOST)
    .map((p) => p.connection);
}

/** What the connections of a joint are made of, where it is. */
export function Made({ whole, joint, onPick }: { whole: Whole; joint: JointSolids; onPick: (joint: string) => void }) {
  const drawn = useMemo(() => {
    const solids = joint.connections
      .flatMap((c) => c.solids)
      .map((s) => ({ kind: s.kind, ...geometry(s.points, s.faces) }));
    return SOLID.flatMap((kind) => {
      const own = solids.filter((s) => s.kind === kind);
      if (!own.length) return [];
      const edges = mergeGeometries(own.map((s) => s.edges));
      return [{ kind, shape: mergeGeometries(own.map((s) => s.shape)), edges }];
    });
  }, [joint]);
  const node = whole.model.nodes[whole.node.get(joint.joint) ?? -1];
  const invalidate = useThree((s) => s.invalidate);
  useEffect(() => invalidate(), [invalidate, drawn]);
  if (!node) return null;
  return (
    <group position={toSpace(node.xyz)} rotation={[-Math.PI / 2, 0, 0]} scale={1 / 1000}>
      {drawn.map(({ kind, shape, edges }) => (
        <group key={kind}>
          <mesh
            geometry={shape}
            onClick={(event) => {
              event.stopPropagation();
              onPick(joint.joint);
            }}
          >
            <meshStandardMaterial color={KINDS[kind]} roughness={0.75} />
          </mesh>
          <lineSegments geometry={edges} raycast={() => null}>
            <lineBasicMaterial color={EDGE} transparent opacity={0.7} />
          </lineSegments>
        </group>
      ))}
    </group>
  );
}

/** How far from its node, in metres, a member's steel begins there: by the solids of its joint. */
export function begins(whole: Whole, joints: JointSolids[]): Map<string, number> {
  const found = new Map<string, number>();
  for (const joint of joints) {
    const from = whole.node.get(joint.joint);
    if (from === undefined) continue;
    for (const m of joint.members) {
      const of = whole.model.members[whole.member.get(m.member) ?? -1];
      if (!of || (of.i !== from && of.j !== from)) continue;
      const a = whole.model.nodes[from].xyz;
      const b = whole.model.nodes[of.i === from ? of.j : of.i].xyz;
      const way = new THREE.Vector3(b[0] - a[0], b[1] - a[1], b[2] - a[2]).normalize();
      let least = Number.POSITIVE_INFINITY;
      for (let k = 0; k < m.points.length; k += 3)
        least = Math.min(least, m.points[k] * way.x + m.points[k + 1] * way.y + m.points[k + 2] * way.z);
      if (least > 0) found.set(`${m.member} ${joint.joint}`, least / 1000);
    }
  }
  return found;
}

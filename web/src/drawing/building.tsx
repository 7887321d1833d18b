import { OrbitControls } from "@react-three/drei";
import { Canvas } from "@react-three/fiber";
import { useLayoutEffect, useMemo, useRef } from "react";
import * as THREE from "three";
import type { Model } from "../api/types";
import type { STATUSES } from "../words";

export type Marker = Model["connections"][number] & { place: THREE.Vector3; colour: string };

const METRE = 1000;
const MEMBER: Record<string, string> = { column: "#7d8a86", beam: "#b4bdb8", brace: "#9a8f79" };

/** Nodes as points with Y up, in metres. */
export function points(model: Model) {
  return model.nodes.map(({ xyz: [x, y, z] }) => new THREE.Vector3(x / METRE, z / METRE, -y / METRE));
}

/** Each connection a little way into its member from its joint, so that those of one joint stand apart. */
export function markers(model: Model, colourOf: (c: Model["connections"][number]) => string): Marker[] {
  const at = points(model);
  const node = new Map(model.nodes.map((n, k) => [n.node, at[k]]));
  const member = new Map(model.members.map((m) => [m.member, m]));
  return model.connections.flatMap((c) => {
    const from = node.get(c.joint);
    const of = member.get(c.member);
    if (!from || !of) return [];
    const far = at[of.i].distanceTo(from) < 1e-6 ? at[of.j] : at[of.i];
    const span = far.clone().sub(from);
    const place = from.clone().addScaledVector(span, Math.min(0.55 / Math.max(span.length(), 0.01), 0.3));
    return [{ ...c, place, colour: colourOf(c) }];
  });
}

interface Props {
  model: Model;
  found: Marker[];
  picked: string;
  onPick: (joint: string) => void;
  level: number | null;
}

/** The frame in 3D: members as bars, connections as marks whose shape tells their status. */
export function BuildingView({ model, found, picked, onPick, level }: Props) {
  const at = useMemo(() => points(model), [model]);
  const box = useMemo(() => new THREE.Box3().setFromPoints(at), [at]);
  const centre = box.getCenter(new THREE.Vector3());
  const size = box.getSize(new THREE.Vector3()).length();
  const eye: [number, number, number] = [centre.x - size * 0.6, centre.y + size * 0.52, centre.z + size * 1.0];
  return (
    <Canvas
      camera={{ position: eye, fov: 35, near: 0.5, far: size * 10 }}
      onPointerMissed={() => onPick("")}
      gl={{ preserveDrawingBuffer: true }}
    >
      <color attach="background" args={["#f5f4ef"]} />
      <ambientLight intensity={1.5} />
      <directionalLight position={[-40, 80, 60]} intensity={1.6} />
      <Members model={model} at={at} level={level} />
      {(["fail", "unchecked", "unassigned", "pass", "elsewhere"] as const).map((status) => (
        <Marks
          key={`${status}${found.length}`}
          status={status}
          found={found.filter((m) => m.status === status)}
          onPick={onPick}
          picked={picked}
        />
      ))}
      <Picked place={at[model.nodes.findIndex((n) => n.node === picked)]} />
      <OrbitControls target={centre} maxPolarAngle={Math.PI * 0.55} makeDefault />
    </Canvas>
  );
}

/** A halo about the joint that is picked, seen through everything before it. */
function Picked({ place }: { place?: THREE.Vector3 }) {
  if (!place) return null;
  return (
    <mesh position={place} renderOrder={1} raycast={() => null}>
      <sphereGeometry args={[1.3, 24, 16]} />
      <meshBasicMaterial color="#d9a441" transparent opacity={0.55} depthTest={false} />
    </mesh>
  );
}

function Members({ model, at, level }: { model: Model; at: THREE.Vector3[]; level: number | null }) {
  const mesh = useRef<THREE.InstancedMesh>(null);
  useLayoutEffect(() => {
    const bars = mesh.current;
    if (!bars) return;
    const object = new THREE.Object3D();
    const colour = new THREE.Color();
    model.members.forEach((m, k) => {
      const [a, b] = [at[m.i], at[m.j]];
      object.position.copy(a).add(b).multiplyScalar(0.5);
      object.up.set(0, 1, 0);
      if (Math.abs(b.y - a.y) > a.distanceTo(b) * 0.99) object.up.set(1, 0, 0);
      object.lookAt(b);
      const near = level === null || [a, b].some((p) => Math.abs(p.y * METRE - level) < 50);
      const thin = near ? 1 : 0.0001;
      object.scale.set((m.width / METRE) * thin, (m.depth / METRE) * thin, a.distanceTo(b));
      object.updateMatrix();
      bars.setMatrixAt(k, object.matrix);
      bars.setColorAt(k, colour.set(MEMBER[m.role] ?? "#b4bdb8"));
    });
    bars.instanceMatrix.needsUpdate = true;
    if (bars.instanceColor) bars.instanceColor.needsUpdate = true;
  }, [model, at, level]);
  return (
    <instancedMesh
      ref={mesh}
      args={[undefined, undefined, model.members.length]}
      frustumCulled={false}
      raycast={() => null}
    >
      <boxGeometry args={[1, 1, 1]} />
      <meshStandardMaterial roughness={0.85} />
    </instancedMesh>
  );
}

function Marks({
  status,
  found,
  onPick,
  picked,
}: {
  status: keyof typeof STATUSES;
  found: Marker[];
  onPick: (joint: string) => void;
  picked: string;
}) {
  const mesh = useRef<THREE.InstancedMesh>(null);
  useLayoutEffect(() => {
    const marks = mesh.current;
    if (!marks) return;
    const object = new THREE.Object3D();
    const colour = new THREE.Color();
    found.forEach((m, k) => {
      object.position.copy(m.place);
      object.scale.setScalar(m.joint === picked ? 1.9 : status === "fail" ? 1.5 : 1);
      object.updateMatrix();
      marks.setMatrixAt(k, object.matrix);
      marks.setColorAt(k, colour.set(m.colour));
    });
    marks.instanceMatrix.needsUpdate = true;
    if (marks.instanceColor) marks.instanceColor.needsUpdate = true;
    marks.computeBoundingSphere();
  }, [found, picked, status]);
  if (!found.length) return null;
  return (
    <instancedMesh
      ref={mesh}
      args={[undefined, undefined, found.length]}
      frustumCulled={false}
      onClick={(event) => {
        event.stopPropagation();
        if (event.instanceId !== undefined) onPick(found[event.instanceId].joint);
      }}
    >
      {status === "fail" ? (
        <octahedronGeometry args={[0.5]} />
      ) : status === "pass" ? (
        <sphereGeometry args={[0.3, 14, 10]} />
      ) : (
        <boxGeometry args={[0.4, 0.4, 0.4]} />
      )}
      <meshStandardMaterial roughness={0.5} />
    </instancedMesh>
  );
}

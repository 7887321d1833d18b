import { Html, Line, OrbitControls } from "@react-three/drei";
import { Canvas, type ThreeEvent, useThree } from "@react-three/fiber";
import { type RefObject, useEffect, useImperativeHandle, useMemo } from "react";
import * as THREE from "three";
import type { JointSolids, System } from "../api/types";
import { length } from "../words";
import { apart, type Body, boxOf, type Colouring, colourOf, corner } from "./bodies";

const FOV = 30;
const CHOSEN = "#6d5bd0"; // no colour of a utilisation
const AXES = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] } as const;

export type Cut = { axis: keyof typeof AXES; at: number } | null; // at: -1 to 1 of the size of what is drawn
export interface Shown {
  colouring: Colouring;
  apart: number;
  cut: Cut;
  only: string; // "", "connection" or "piece"
  measuring: boolean;
}

export interface Turning {
  turn: (about: number, up: number) => void;
  nearer: (by: number) => void;
  home: () => void;
}

interface Props {
  joint: JointSolids;
  bodies: Body[];
  shown: Shown;
  picked: string;
  ends: THREE.Vector3[]; // of what is measured
  onPick: (body: Body) => void;
  onMeasure: (at: THREE.Vector3) => void;
  turning: RefObject<Turning | null>;
}

/** The joint in 3D, z up: its connection in full, its neighbours dimmed, what collides marked. */
export function JointSpace(props: Props) {
  const { joint, bodies, shown, picked, ends } = props;
  const near = useMemo(() => boxOf(bodies, (b) => b.own && b.kind !== "member" && b.kind !== "ground"), [bodies]);
  const middle = near.getCenter(new THREE.Vector3());
  const size = near.getSize(new THREE.Vector3()).length();
  const planes = useMemo(() => {
    if (!shown.cut) return [];
    const way = new THREE.Vector3(...AXES[shown.cut.axis]);
    const at = way.dot(middle) + shown.cut.at * size * 0.6;
    return [new THREE.Plane(way.negate(), at)];
  }, [shown.cut, middle.x, middle.y, middle.z, size]);
  const seen = bodies.filter((b) => b.key === picked || visible(b, shown.only, picked));
  return (
    <Canvas
      frameloop="demand"
      camera={{ fov: FOV, near: 5, far: 40_000, up: [0, 0, 1], position: [900, -900, 600] }}
      gl={{ preserveDrawingBuffer: true, antialias: true, localClippingEnabled: true }}
    >
      <color attach="background" args={["#f5f4ef"]} />
      <ambientLight intensity={1.3} />
      <directionalLight position={[600, -900, 1400]} intensity={1.5} />
      <directionalLight position={[-900, 500, 300]} intensity={0.6} />
      {seen.map((body) => (
        <Solid key={body.key} body={body} planes={planes} middle={middle} {...props} />
      ))}
      {!shown.apart &&
        joint.collisions.map((c) => (
          <Clash key={`${c.connection}${c.piece}${c.other}${c.its}`} at={c.at} stands={!c.fails} size={size} />
        ))}
      <Measured ends={ends} system={joint.system} size={size} />
      <OrbitControls target={middle} makeDefault enableDamping={false} />
      <Stand key={joint.connection} bodies={bodies} middle={middle} size={size} turning={props.turning} />
    </Canvas>
  );
}

function visible(body: Body, only: string, picked: string) {
  if (only === "piece" && picked) return body.key === picked;
  return only === "" || body.own || body.kind === "member";
}

function Solid({
  body,
  planes,
  middle,
  shown,
  picked,
  onPick,
  onMeasure,
}: { body: Body; planes: THREE.Plane[]; middle: THREE.Vector3 } & Props) {
  const chosen = body.key === picked;
  const dim = !body.own && !chosen;
  const invalidate = useThree((s) => s.invalidate);
  const clear = body.kind === "ground" ? 0.25 : dim ? (body.kind === "member" ? 0.35 : 0.45) : 1;
  const colour = chosen ? CHOSEN : colourOf(body, shown.colouring);
  useEffect(() => invalidate(), [invalidate, colour, clear, planes, shown]);
  const click = (event: ThreeEvent<MouseEvent>) => {
    if (event.delta > 4) return; // it was turned
    event.stopPropagation();
    if (shown.measuring) onMeasure(corner(body.shape, event.face, event.point));
    else onPick(body);
  };
  return (
    <group position={apart(body, middle, shown.apart)}>
      <mesh geometry={body.shape} onClick={click} renderOrder={clear < 1 ? 1 : 0}>
        <meshStandardMaterial
          color={colour}
          roughness={0.75}
          metalness={0.05}
          transparent={clear < 1}
          opacity={clear}
          depthWrite={clear === 1}
          side={planes.length ? THREE.DoubleSide : THREE.FrontSide}
          clippingPlanes={planes}
          polygonOffset
          polygonOffsetFactor={1}
          polygonOffsetUnits={1}
        />
      </mesh>
      <lineSegments geometry={body.edges} raycast={() => null}>
        <lineBasicMaterial
          color={chosen ? "#2c2370" : "#26322e"}
          transparent
          opacity={dim ? 0.25 : 0.85}
          clippingPlanes={planes}
        />
      </lineSegments>
    </group>
  );
}

/** Where two pieces stand in each other, seen through everything before it. */
function Clash({ at, stands, size }: { at: readonly number[]; stands: boolean; size: number }) {
  return (
    <mesh position={[at[0], at[1], at[2]]} renderOrder={3} raycast={() => null}>
      <octahedronGeometry args={[size * 0.03]} />
      <meshBasicMaterial color={stands ? "#8a5600" : "#b0322a"} transparent opacity={0.85} depthTest={false} />
    </mesh>
  );
}

function Measured({ ends, system, size }: { ends: THREE.Vector3[]; system: System; size: number }) {
  if (!ends.length) return null;
  const [a, b] = ends;
  return (
    <>
      {ends.map((end) => (
        <mesh key={end.toArray().join()} position={end} renderOrder={4} raycast={() => null}>
          <sphereGeometry args={[size * 0.008, 12, 8]} />
          <meshBasicMaterial color="#1d5f8a" depthTest={false} />
        </mesh>
      ))}
      {b && (
        <>
          <Line points={[a, b]} color="#1d5f8a" lineWidth={2} depthTest={false} renderOrder={4} />
          <Html position={a.clone().add(b).multiplyScalar(0.5)} center>
            <span className="whitespace-nowrap rounded bg-[#1d5f8a] px-1.5 py-0.5 text-xs font-semibold text-white">
              {length(a.distanceTo(b), system)}
            </span>
          </Html>
        </>
      )}
    </>
  );
}

/** Where the eye stands first, and how keys move it. */
function Stand({
  bodies,
  middle,
  size,
  turning,
}: {
  bodies: Body[];
  middle: THREE.Vector3;
  size: number;
  turning: RefObject<Turning | null>;
}) {
  const { camera, controls, invalidate, viewport } = useThree();
  const orbit = controls as unknown as { target: THREE.Vector3; update: () => void } | null;
  const home = () => {
    const member = bodies.find((b) => b.own && b.kind === "member");
    const out = (member ? member.centre.clone().sub(middle) : new THREE.Vector3(1, 0, 0)).setZ(0);
    if (out.lengthSq() < 1) out.set(1, 0.35, 0);
    out.normalize();
    const aside = new THREE.Vector3(out.y, -out.x, 0);
    const eye = out
      .multiplyScalar(0.55)
      .addScaledVector(aside, 0.8)
      .add(new THREE.Vector3(0, 0, 0.45));
    camera.position
      .copy(middle)
      .addScaledVector(
        eye.normalize(),
        (size * 1.25) / Math.tan((FOV * Math.PI) / 360) / 1.6 / Math.min(1, viewport.aspect),
      );
    orbit?.target.copy(middle);
    orbit?.update();
    invalidate();
  };
  useEffect(home, [orbit]);
  useImperativeHandle(turning, () => ({
    home,
    turn: (about, up) => {
      const target = orbit?.target ?? middle;
      const way = new THREE.Spherical().setFromVector3(swung(camera.position.clone().sub(target)));
      way.theta += about;
      way.phi = Math.min(Math.max(way.phi + up, 0.05), Math.PI - 0.05);
      camera.position.copy(target).add(back(new THREE.Vector3().setFromSpherical(way)));
      orbit?.update();
      invalidate();
    },
    nearer: (by) => {
      const target = orbit?.target ?? middle;
      camera.position.copy(target).add(camera.position.clone().sub(target).multiplyScalar(by));
      orbit?.update();
      invalidate();
    },
  }));
  return null;
}

/** z up as y up, and back: angles about what stands upright are three's own then. */
const swung = (v: THREE.Vector3) => new THREE.Vector3(v.x, v.z, -v.y);
const back = (v: THREE.Vector3) => new THREE.Vector3(v.x, -v.z, v.y);

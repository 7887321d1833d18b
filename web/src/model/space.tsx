import { OrbitControls } from "@react-three/drei";
import { Canvas, useFrame, useThree } from "@react-three/fiber";
import { type RefObject, useEffect, useImperativeHandle, useLayoutEffect, useMemo, useRef, useState } from "react";
import * as THREE from "three";
import { useJoints } from "../api/queries";
import type { Status } from "../api/types";
import { type Bar, Bars, barOf, toSpace } from "./bars";
import { type Colours, ROLES, remarked } from "./colours";
import { Grid, Tags } from "./lettering";
import { begins, Eye, Made } from "./near";
import type { Connection, Whole } from "./whole";
import { markOf } from "./whole";

const MANY = 4000; // connections: from here on their marks are plainer
const INWARD = 550; // mm from a joint to its connections' marks

export interface Projector {
  /** connections whose marks lie in a rectangle of the view, in pixels from its upper left corner */
  inside: (x0: number, y0: number, x1: number, y1: number) => string[];
}

interface Props {
  job: string; // empty until its names have come
  whole: Whole;
  colours: Colours;
  members: number[];
  connections: Connection[];
  joint: string;
  member: string;
  picked: Set<string>;
  labels: string;
  close: number; // counted up to go close to what is picked
  onJoint: (joint: string) => void;
  onMember: (member: string) => void;
  projector: RefObject<Projector | null>;
}

/** The frame in 3D: members as they lie, connections as marks whose shape tells their status, grid lines on the ground. */
export function Space(props: Props) {
  const { whole, colours, members, connections, onMember } = props;
  const box = useMemo(() => new THREE.Box3().setFromPoints(whole.model.nodes.map((n) => toSpace(n.xyz))), [whole]);
  const [near, setNear] = useState<string[]>([]);
  const made = useJoints(props.job, near);
  const shown = useMemo(() => new Set(made.map((joint) => joint.joint)), [made]);
  const starts = useMemo(() => begins(whole, made), [whole, made]);
  const bars = useMemo(
    () =>
      members.map((k) => {
        const m = whole.model.members[k];
        const own = m.member === props.member ? "#d9a441" : (colours.ofMember?.(k) ?? ROLES[m.role] ?? PLAIN);
        const bar = barOf(whole, k, own);
        if (!starts.size) return bar;
        const way = bar.b.clone().sub(bar.a).normalize();
        const [i, j] = [m.i, m.j].map((n) => starts.get(`${m.member} ${whole.model.nodes[n].node}`) ?? 0);
        return { ...bar, a: bar.a.addScaledVector(way, i), b: bar.b.addScaledVector(way, -j) };
      }),
    [whole, members, colours, props.member, starts],
  );
  const [grain, setGrain] = useState(1);
  const [coarse, setCoarse] = useState(false);
  const centre = useMemo(() => box.getCenter(new THREE.Vector3()), [box]); // the same one: a new one would be looked at again
  const size = box.getSize(new THREE.Vector3()).length();
  const eye: [number, number, number] = [centre.x - size * 0.58, centre.y + size * 0.5, centre.z + size * 1.02];
  return (
    <Canvas
      frameloop="demand"
      camera={{ position: eye, fov: 35, near: 0.2, far: size * 10 }}
      onPointerMissed={() => {
        props.onJoint("");
        props.onMember("");
      }}
      gl={{ preserveDrawingBuffer: true, antialias: connections.length <= MANY }}
    >
      <color attach="background" args={["#f5f4ef"]} />
      <ambientLight intensity={1.5} />
      <directionalLight position={[-40, 80, 60]} intensity={1.6} />
      <group visible={!coarse}>
        <Bars bars={bars} onPick={(k) => onMember(whole.model.members[k].member)} />
        {(["fail", "unchecked", "unassigned", "pass", "remarks", "elsewhere"] as const).map((status) => (
          <Marks key={status} status={status} grain={grain} shown={shown} {...props} />
        ))}
      </group>
      {coarse && <Coarse {...props} />}
      {made.map((joint) => (
        <Made key={joint.joint} whole={whole} joint={joint} onPick={props.onJoint} />
      ))}
      {props.job && <Eye whole={whole} connections={connections} onNear={setNear} />}
      <Grid whole={whole} floor={box.min.y} />
      <Tags whole={whole} members={members} connections={connections} labels={props.labels} />
      {!shown.has(props.joint) && <Halo whole={whole} joint={props.joint} grain={grain} />}
      <Grain onChange={setGrain} />
      <OrbitControls target={centre} maxPolarAngle={Math.PI * 0.55} makeDefault />
      <Swift onCoarse={setCoarse} />
      <Aim whole={whole} joint={props.joint} member={props.member} close={props.close} />
      <Project {...props} />
    </Canvas>
  );
}

function Marks({
  status,
  grain,
  whole,
  colours,
  connections,
  joint,
  picked,
  shown,
  onJoint,
}: { status: Status | "remarks"; grain: number; shown: Set<string> } & Props) {
  const mesh = useRef<THREE.InstancedMesh>(null);
  const invalidate = useThree((s) => s.invalidate);
  const own = useMemo(
    () => connections.filter((c) => (remarked(c) ? "remarks" : c.status) === status),
    [connections, status],
  );
  useLayoutEffect(() => {
    const marks = mesh.current;
    if (!marks) return;
    const object = new THREE.Object3D();
    const colour = new THREE.Color();
    own.forEach((c, k) => {
      const place = markOf(whole, c, INWARD);
      if (place) object.position.copy(toSpace(place));
      const chosen = c.joint === joint || picked.has(c.connection);
      const size = shown.has(c.joint) ? 0.4 : chosen ? 1.9 : status === "fail" ? 1.5 : 1; // not before its own steel
      object.scale.setScalar(size * grain);
      object.updateMatrix();
      marks.setMatrixAt(k, object.matrix);
      marks.setColorAt(k, colour.set(picked.has(c.connection) ? "#d9a441" : colours.of(c)));
    });
    marks.instanceMatrix.needsUpdate = true;
    if (marks.instanceColor) marks.instanceColor.needsUpdate = true;
    marks.computeBoundingSphere();
    invalidate();
  }, [own, whole, colours, joint, picked, shown, status, grain, invalidate]);
  if (!own.length) return null;
  return (
    <instancedMesh
      key={own.length}
      ref={mesh}
      args={[undefined, undefined, own.length]}
      frustumCulled={false}
      onClick={(event) => {
        event.stopPropagation();
        if (event.instanceId !== undefined) onJoint(own[event.instanceId].joint);
      }}
    >
      {status === "fail" ? (
        <octahedronGeometry args={[0.5]} />
      ) : status === "remarks" ? (
        <coneGeometry args={[0.36, 0.62, connections.length > MANY ? 4 : 12]} />
      ) : status === "pass" ? (
        <icosahedronGeometry args={[0.32, connections.length > MANY ? 0 : 2]} />
      ) : (
        <boxGeometry args={[0.4, 0.4, 0.4]} />
      )}
      <meshLambertMaterial />
    </instancedMesh>
  );
}

/** A halo about the joint that is picked, seen through everything before it. */
function Halo({ whole, joint, grain }: { whole: Whole; joint: string; grain: number }) {
  const node = whole.model.nodes[whole.node.get(joint) ?? -1];
  if (!node) return null;
  return (
    <mesh position={toSpace(node.xyz)} renderOrder={1} raycast={() => null}>
      <sphereGeometry args={[1.3 * grain, 24, 16]} />
      <meshBasicMaterial color="#d9a441" transparent opacity={0.4} depthTest={false} />
    </mesh>
  );
}

/** Tells when the view is turned and drawing it cannot keep up, and when it stands again. */
function Swift({ onCoarse }: { onCoarse: (coarse: boolean) => void }) {
  const controls = useThree((s) => s.controls) as unknown as THREE.EventDispatcher<{
    start: object;
    end: object;
  }> | null;
  const state = useRef({ moving: false, slow: false, last: 0, timer: 0 });
  useEffect(() => {
    const now = state.current;
    const start = () => {
      window.clearTimeout(now.timer);
      now.last = performance.now();
      now.moving = true;
      if (now.slow) onCoarse(true);
    };
    const end = () => {
      now.timer = window.setTimeout(() => {
        now.moving = false;
        onCoarse(false);
      }, STANDS);
    };
    controls?.addEventListener("start", start);
    controls?.addEventListener("end", end);
    return () => {
      window.clearTimeout(now.timer);
      controls?.removeEventListener("start", start);
      controls?.removeEventListener("end", end);
    };
  }, [controls, onCoarse]);
  useFrame(() => {
    const now = state.current;
    const took = performance.now() - now.last;
    now.last = performance.now();
    if (!now.moving || now.slow || took < SLOW) return;
    now.slow = true;
    onCoarse(true);
  });
  return null;
}

const SLOW = 60; // ms that a frame takes
const STANDS = 250; // ms after the last move

/** Members as lines and connections as points: what is drawn while the view is turned where all of it is too much. */
function Coarse({ whole, members, connections, colours }: Props) {
  const [lines, dots] = useMemo(() => {
    const colour = new THREE.Color();
    const [ends, shades, places, hues]: number[][] = [[], [], [], []];
    for (const k of members) {
      const m = whole.model.members[k];
      colour.set(colours.ofMember?.(k) ?? ROLES[m.role] ?? PLAIN);
      for (const node of [m.i, m.j]) {
        ends.push(...toSpace(whole.model.nodes[node].xyz).toArray());
        shades.push(colour.r, colour.g, colour.b);
      }
    }
    for (const c of connections) {
      const place = markOf(whole, c, INWARD);
      if (!place) continue;
      places.push(...toSpace(place).toArray());
      colour.set(colours.of(c));
      hues.push(colour.r, colour.g, colour.b);
    }
    const made = (at: number[], of: number[]) =>
      new THREE.BufferGeometry()
        .setAttribute("position", new THREE.Float32BufferAttribute(at, 3))
        .setAttribute("color", new THREE.Float32BufferAttribute(of, 3));
    return [made(ends, shades), made(places, hues)];
  }, [whole, members, connections, colours]);
  return (
    <>
      <lineSegments geometry={lines} raycast={() => null} frustumCulled={false}>
        <lineBasicMaterial vertexColors />
      </lineSegments>
      <points geometry={dots} raycast={() => null} frustumCulled={false}>
        <pointsMaterial vertexColors size={0.5} />
      </points>
    </>
  );
}

/** Marks are small beside the steel where the eye is close to it. */
function Grain({ onChange }: { onChange: (grain: number) => void }) {
  const was = useRef(1);
  useFrame(({ camera, controls }) => {
    const target = (controls as unknown as { target: THREE.Vector3 } | null)?.target;
    if (!target) return;
    const grain = Math.min(Math.max(camera.position.distanceTo(target) / 50, 0.2), 1);
    if (Math.abs(grain / was.current - 1) > 0.15) {
      was.current = grain;
      onChange(grain);
    }
  });
  return null;
}

/** Goes close to what is picked, each time that it is asked. */
function Aim({ whole, joint, member, close }: { whole: Whole; joint: string; member: string; close: number }) {
  const { camera, controls, invalidate } = useThree();
  const done = useRef(0);
  useEffect(() => {
    if (!close || close === done.current) return;
    done.current = close;
    const m = whole.model.members[whole.member.get(member) ?? -1];
    const node = whole.model.nodes[whole.node.get(joint) ?? -1];
    if (!m && !node) return;
    const [a, b] = m
      ? [m.i, m.j].map((k) => toSpace(whole.model.nodes[k].xyz))
      : [toSpace(node.xyz), toSpace(node.xyz)];
    const target = node ? toSpace(node.xyz) : a.clone().add(b).multiplyScalar(0.5);
    const reach = node ? 7 : Math.max(a.distanceTo(b) * 1.4, 7);
    const way = camera.position.clone().sub(target).normalize();
    way.y = Math.max(way.y, 0.35);
    camera.position.copy(target).addScaledVector(way.normalize(), reach);
    const orbit = controls as unknown as { target: THREE.Vector3; update: () => void } | null;
    orbit?.target.copy(target);
    orbit?.update();
    invalidate();
  }, [close, whole, joint, member, camera, controls, invalidate]);
  return null;
}

/** Tells the page which marks lie in a box that was drawn over the view. */
function Project({ whole, connections, projector }: Props) {
  const { camera, size } = useThree();
  useImperativeHandle(projector, () => ({
    inside: (x0, y0, x1, y1) =>
      connections
        .filter((c) => {
          const place = markOf(whole, c, INWARD);
          if (!place) return false;
          const seen = toSpace(place).project(camera);
          const [x, y] = [((seen.x + 1) / 2) * size.width, ((1 - seen.y) / 2) * size.height];
          return seen.z < 1 && x >= x0 && x <= x1 && y >= y0 && y <= y1;
        })
        .map((c) => c.connection),
  }));
  return null;
}

/** One joint close up: the members that meet there, cut off a little way from it. */
export function CloseUp({ whole, joint }: { whole: Whole; joint: string }) {
  const node = whole.node.get(joint) ?? -1;
  const bars = useMemo(() => {
    const centre = toSpace(whole.model.nodes[node].xyz);
    return whole.meeting[node].map((k): Bar => {
      const bar = barOf(whole, k, ROLES[whole.model.members[k].role] ?? PLAIN);
      const far = bar.a.distanceTo(centre) < 1e-6 ? bar.b : bar.a;
      const way = far.clone().sub(centre);
      const part = Math.min(STUB / Math.max(way.length(), 0.01), 0.5);
      return { ...bar, a: new THREE.Vector3(), b: way.multiplyScalar(part) };
    });
  }, [whole, node]);
  return (
    <Canvas
      frameloop="demand"
      camera={{ position: [-2.6, 1.9, 3.2], fov: 32, near: 0.1, far: 60 }}
      gl={{ preserveDrawingBuffer: true }}
      role="img"
      aria-label={`Close up of ${joint}`}
    >
      <color attach="background" args={["#ffffff"]} />
      <ambientLight intensity={1.4} />
      <directionalLight position={[-3, 8, 6]} intensity={1.9} />
      <Bars bars={bars} />
      <OrbitControls makeDefault enablePan={false} minDistance={1.5} maxDistance={12} />
    </Canvas>
  );
}

const PLAIN = "#b4bdb8";
const STUB = 1.25; // metres

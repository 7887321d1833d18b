import { useThree } from "@react-three/fiber";
import { useLayoutEffect, useMemo, useRef } from "react";
import * as THREE from "three";
import { mergeGeometries } from "three/addons/utils/BufferGeometryUtils.js";
import type { Member, Point, Whole } from "./whole";

const METRE = 1000;

/** One piece of steel to be drawn: ends in metres with Y up, `up` along its depth. */
export interface Bar {
  a: THREE.Vector3;
  b: THREE.Vector3;
  up: THREE.Vector3;
  shape: string;
  depth: number;
  width: number;
  colour: string;
  of: number;
}

/** mm with Z up to metres with Y up. */
export const toSpace = ([x, y, z]: Point) => new THREE.Vector3(x / METRE, z / METRE, -y / METRE);

export function barOf(whole: Whole, k: number, colour: string): Bar {
  const m: Member = whole.model.members[k];
  return {
    a: toSpace(whole.model.nodes[m.i].xyz),
    b: toSpace(whole.model.nodes[m.j].xyz),
    up: toSpace(m.up).multiplyScalar(METRE).normalize(),
    shape: m.shape,
    depth: m.depth / METRE,
    width: m.width / METRE,
    colour,
    of: k,
  };
}

const OPEN = ["W", "M", "S", "HP"];
type Form = "open" | "round" | "full";
const formOf = (shape: string): Form => (OPEN.includes(shape) ? "open" : /ROUND|PIPE/.test(shape) ? "round" : "full");

/** A section of unit depth and width, one long along z: two flanges and a web, a tube, or a bar. */
function formed(form: Form): THREE.BufferGeometry {
  if (form === "round") return new THREE.CylinderGeometry(0.5, 0.5, 1, 12).rotateX(Math.PI / 2);
  if (form === "full") return new THREE.BoxGeometry(1, 1, 1);
  const thick = 0.07;
  return mergeGeometries([
    new THREE.BoxGeometry(1, thick, 1).translate(0, 0.5 - thick / 2, 0),
    new THREE.BoxGeometry(1, thick, 1).translate(0, -0.5 + thick / 2, 0),
    new THREE.BoxGeometry(0.08, 1 - 2 * thick, 1),
  ]);
}

/** Members in proportion to their sections, each form of section in one call. */
export function Bars({ bars, onPick }: { bars: Bar[]; onPick?: (member: number) => void }) {
  return (["open", "round", "full"] as const).map((form) => (
    <Forms key={form} form={form} bars={bars} onPick={onPick} />
  ));
}

function Forms({ form, bars, onPick }: { form: Form; bars: Bar[]; onPick?: (member: number) => void }) {
  const mesh = useRef<THREE.InstancedMesh>(null);
  const invalidate = useThree((s) => s.invalidate);
  const geometry = useMemo(() => formed(form), [form]);
  const own = useMemo(() => bars.filter((bar) => formOf(bar.shape) === form), [bars, form]);
  useLayoutEffect(() => {
    const found = mesh.current;
    if (!found) return;
    const basis = new THREE.Matrix4();
    const colour = new THREE.Color();
    const [x, z] = [new THREE.Vector3(), new THREE.Vector3()];
    own.forEach((bar, k) => {
      z.copy(bar.b).sub(bar.a);
      const length = z.length();
      z.divideScalar(length || 1);
      x.crossVectors(bar.up, z);
      basis.makeBasis(
        x.multiplyScalar(bar.width),
        bar.up.clone().multiplyScalar(bar.depth),
        z.clone().multiplyScalar(length),
      );
      basis.setPosition(bar.a.clone().add(bar.b).multiplyScalar(0.5));
      found.setMatrixAt(k, basis);
      found.setColorAt(k, colour.set(bar.colour));
    });
    found.instanceMatrix.needsUpdate = true;
    if (found.instanceColor) found.instanceColor.needsUpdate = true;
    found.computeBoundingSphere();
    invalidate();
  }, [own, invalidate]);
  if (!own.length) return null;
  return (
    <instancedMesh
      key={own.length}
      ref={mesh}
      args={[geometry, undefined, own.length]}
      frustumCulled={false}
      onClick={
        onPick &&
        ((event) => {
          event.stopPropagation();
          if (event.instanceId !== undefined) onPick(own[event.instanceId].of);
        })
      }
      raycast={onPick ? THREE.InstancedMesh.prototype.raycast : () => null}
    >
      <meshLambertMaterial />
    </instancedMesh>
  );
}

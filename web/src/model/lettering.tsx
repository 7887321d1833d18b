import { useEffect, useMemo } from "react";
import * as THREE from "three";
import { toSpace } from "./bars";
import type { Connection, Whole } from "./whole";

/** Grid lines on the ground with their names, and north where the model says it. */
export function Grid({ whole, floor }: { whole: Whole; floor: number }) {
  const { grids, north, nodes } = whole.model;
  const found = useMemo(() => {
    const points: THREE.Vector3[] = [];
    const names: { text: string; at: THREE.Vector3 }[] = [];
    for (const g of grids) {
      const [a, b] = [g.start, g.end].map(([x, y]) => toSpace([x, y, 0]).setY(floor));
      points.push(a, b);
      const free = (p: [number, number]) =>
        !grids.some(
          (o) => o !== g && o.grid === g.grid && [o.start, o.end].some((q) => Math.hypot(q[0] - p[0], q[1] - p[1]) < 1),
        );
      const way = b.clone().sub(a).normalize().multiplyScalar(3);
      if (free(g.start)) {
        names.push({ text: g.grid, at: a.clone().sub(way) });
        points.push(a, a.clone().sub(way.clone().multiplyScalar(0.6)));
      }
    }
    return { lines: new THREE.BufferGeometry().setFromPoints(points), names };
  }, [grids, floor]);
  const corner = useMemo(() => {
    const box = new THREE.Box3().setFromPoints(nodes.map((n) => toSpace(n.xyz)));
    return new THREE.Vector3(box.max.x - 6, floor, box.max.z + 10);
  }, [nodes, floor]);
  return (
    <>
      <lineSegments geometry={found.lines} raycast={() => null}>
        <lineBasicMaterial color="#9aa39c" />
      </lineSegments>
      {found.names.map(({ text, at }) => (
        <Bubble key={`${text}${at.x}${at.z}`} text={text} at={at} />
      ))}
      {north !== null && (
        <group position={corner} rotation={[0, (north * Math.PI) / 180, 0]}>
          <mesh position={[0, 0, -2]} rotation={[-Math.PI / 2, 0, 0]} raycast={() => null}>
            <coneGeometry args={[0.9, 4, 3]} />
            <meshBasicMaterial color="#835a0c" />
          </mesh>
          <Bubble text="N" at={new THREE.Vector3(0, 0, -5.5)} bare />
        </group>
      )}
    </>
  );
}

/** A name that faces the eye, in a circle as grid lines have them. */
function Bubble({ text, at, bare = false }: { text: string; at: THREE.Vector3; bare?: boolean }) {
  const map = useMemo(() => {
    const canvas = document.createElement("canvas");
    canvas.width = canvas.height = 128;
    const pen = canvas.getContext("2d") as CanvasRenderingContext2D;
    if (!bare) {
      pen.fillStyle = "#fdfcf9";
      pen.strokeStyle = "#58635e";
      pen.lineWidth = 5;
      pen.beginPath();
      pen.arc(64, 64, 56, 0, 2 * Math.PI);
      pen.fill();
      pen.stroke();
    }
    pen.fillStyle = "#1e2926";
    pen.font = `600 ${text.length > 2 ? 40 : 62}px sans-serif`;
    pen.textAlign = "center";
    pen.textBaseline = "middle";
    pen.fillText(text, 64, 68);
    const made = new THREE.CanvasTexture(canvas);
    made.colorSpace = THREE.SRGBColorSpace;
    return made;
  }, [text, bare]);
  useEffect(() => () => map.dispose(), [map]);
  return (
    <sprite position={at} scale={[2.6, 2.6, 1]} raycast={() => null}>
      <spriteMaterial map={map} depthTest={false} transparent />
    </sprite>
  );
}

export const MOST_TAGS = 400; // more names than these hide the steel

/** Sections or names along members, or joints' names: where few enough are shown. */
export function Tags({
  whole,
  members,
  connections,
  labels,
}: {
  whole: Whole;
  members: number[];
  connections: Connection[];
  labels: string;
}) {
  const found = useMemo(() => {
    const { members: all, nodes } = whole.model;
    if (labels === "none" || members.length > MOST_TAGS) return [];
    if (labels === "joints")
      return [...new Set(connections.map((c) => c.joint))].map((name) => ({
        key: name,
        text: name,
        at: toSpace(nodes[whole.node.get(name) ?? 0].xyz).add(new THREE.Vector3(0, 0.5, 0)),
      }));
    return members.map((k) => {
      const m = all[k];
      const at = toSpace(nodes[m.i].xyz).add(toSpace(nodes[m.j].xyz)).multiplyScalar(0.5);
      return { key: m.member, text: labels === "sections" ? m.section : m.member, at };
    });
  }, [whole, members, connections, labels]);
  return found.map(({ key, text, at }) => <Tag key={key} text={text} at={at} />);
}

const written = new Map<string, THREE.CanvasTexture>(); // by its text: a few sections are written hundreds of times

function textureOf(text: string): THREE.CanvasTexture {
  const kept = written.get(text);
  if (kept) return kept;
  const canvas = document.createElement("canvas");
  const pen = canvas.getContext("2d") as CanvasRenderingContext2D;
  const font = "500 40px sans-serif";
  pen.font = font;
  canvas.width = Math.ceil(pen.measureText(text).width) + 16;
  canvas.height = 52;
  pen.font = font;
  pen.fillStyle = "rgba(253, 252, 249, 0.85)";
  pen.fillRect(0, 0, canvas.width, canvas.height);
  pen.fillStyle = "#1e2926";
  pen.textBaseline = "middle";
  pen.fillText(text, 8, 28);
  const made = new THREE.CanvasTexture(canvas);
  made.colorSpace = THREE.SRGBColorSpace;
  written.set(text, made);
  return made;
}

function Tag({ text, at }: { text: string; at: THREE.Vector3 }) {
  const map = useMemo(() => textureOf(text), [text]);
  const { width, height } = map.image as HTMLCanvasElement;
  return (
    <sprite position={at} scale={[(0.75 * width) / height, 0.75, 1]} raycast={() => null}>
      <spriteMaterial map={map} depthTest={false} transparent />
    </sprite>
  );
}

import { describe, expect, it } from "vitest";
import { decoded, H, scaled, W, within } from "./drawn";

const points = Float32Array.from([0, 10, 0, 0, 0, 0, 5, -20, 0, 0, 0, 0]); // N 0 and 5, V 10 and -20

describe("the picture's window", () => {
  const scale = scaled(points, 0, 1, []);
  it("holds every point and nought, V upwards", () => {
    expect([scale.low, scale.high]).toEqual([
      [0, -20],
      [5, 10],
    ]);
    for (const [x, y] of [
      [0, 10],
      [5, -20],
      [0, 0],
    ]) {
      expect(scale.x(x)).toBeGreaterThanOrEqual(0);
      expect(scale.x(x)).toBeLessThanOrEqual(W);
      expect(scale.y(y)).toBeGreaterThanOrEqual(0);
      expect(scale.y(y)).toBeLessThanOrEqual(H);
    }
    expect(scale.y(10)).toBeLessThan(scale.y(-20));
  });
  it("is not made small by a line far away", () => {
    const far = scaled(points, 0, 1, [{ points: [[1e6, 0]] }] as never);
    expect(far.high[0]).toBe(5 + 3 * 5);
  });
});

describe("picking", () => {
  const scale = scaled(points, 0, 1, []);
  const at = (k: number): [number, number] => [scale.x(points[6 * k]), scale.y(points[6 * k + 1])];
  it("takes what a box holds, whichever way it was drawn", () => {
    const [a, b] = [at(0), at(1)];
    const box: [number, number][] = [
      [a[0] - 5, a[1] - 5],
      [a[0] + 5, a[1] + 5],
    ];
    expect(within(points, 0, 1, scale, box[0], box[1])).toEqual([0]);
    expect(within(points, 0, 1, scale, box[1], box[0])).toEqual([0]);
    expect(within(points, 0, 1, scale, a, b)).toEqual([0, 1]);
  });
  it("takes the nearest where it is a click, and none that is far", () => {
    const [x, y] = at(1);
    expect(within(points, 0, 1, scale, [x + 3, y], [x + 3, y])).toEqual([1]);
    expect(within(points, 0, 1, scale, [x - 40, y], [x - 40, y])).toEqual([]);
  });
});

it("reads points as the service packs them", () => {
  const bytes = new Uint8Array(Float32Array.from([1.5, -2]).buffer);
  expect([...decoded(btoa(String.fromCharCode(...bytes)))]).toEqual([1.5, -2]);
});

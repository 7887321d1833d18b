import type { Status, System } from "./api/types";
import { INCH, KIP, KIP_FOOT, POUND } from "./units";

/** Each status with its word, its shape and its colour: colour never stands alone. */
export const STATUSES: Record<Status, { word: string; mark: string; colour: string }> = {
  fail: { word: "fail", mark: "✕", colour: "#b0322a" },
  unchecked: { word: "unchecked", mark: "?", colour: "#8a5600" },
  unassigned: { word: "unassigned", mark: "○", colour: "#566570" },
  pass: { word: "pass", mark: "✓", colour: "#23765a" },
  elsewhere: { word: "elsewhere", mark: "–", colour: "#70528f" },
};

/** Of what passes and is used more than sizing aims at: its own word and shape. */
export const OVER_TARGET = { word: "over target", mark: "△", colour: "#6b6a1f" };

/** Of what passes and asks something of a person: its own word and shape. */
export const REMARKED = { word: "pass, remarks", mark: "☑", colour: "#3f6f8a" };

export const ORDER: Status[] = ["fail", "unchecked", "unassigned", "pass", "elsewhere"];

export const plain = (name: string) => name.replaceAll("_", " ");

/** A sentence of the service's with its names of checks and sizes as words. */
export const sentence = (text: string) =>
  text.replace(/\b[a-zA-Z]+(_[a-zA-Z]+)+\b/g, plain).replace(/\b(kip|kN)\*(in|ft|m)\b/g, "$1·$2");

/** Millimetres as text in the job's units: inches in sixteenths, or mm. */
export function length(mm: number, system: System): string {
  if (system === "si") return `${Math.round(mm * 10) / 10} mm`;
  const sixteenths = Math.round((mm / INCH) * 16);
  if (Math.abs(sixteenths / 16 - mm / INCH) > 0.002) return `${(mm / INCH).toFixed(2)} in`;
  const whole = Math.floor(sixteenths / 16);
  let part = sixteenths % 16;
  let of = 16;
  while (part && part % 2 === 0) {
    part /= 2;
    of /= 2;
  }
  if (!part) return `${whole} in`;
  return whole ? `${whole}-${part}/${of} in` : `${part}/${of} in`;
}

/** A level as feet and inches, or metres. */
export function level(mm: number, system: System): string {
  if (system === "si") return `${(mm / 1000).toFixed(2)} m`;
  const inches = Math.round(Math.abs(mm) / INCH);
  return `${mm < 0 && inches ? "-" : ""}${Math.floor(inches / 12)}'-${inches % 12}"`;
}

/** kN or kN*m as text in the job's units. */
export function amount(value: number, unit: string, system: System): string {
  const plainly = (number: number) => number.toFixed(1).replace(/^-0\.0$/, "0.0");
  if (system === "si") return `${plainly(value)} ${unit === "kN*m" ? "kN·m" : unit}`;
  return unit === "kN" ? `${plainly(value / KIP)} kip` : `${plainly(value / KIP_FOOT)} kip·ft`;
}

/** Four significant digits. */
export function figure(value: number): string {
  if (value === 0) return "0";
  return value.toFixed(digitsOf(value));
}

/** The same of a strength: never more than it is. */
export function strength(value: number): string {
  const step = 10 ** -digitsOf(value || 1);
  return (Math.floor(value / step + 1e-6) * step).toFixed(digitsOf(value || 1));
}

const digitsOf = (value: number) => Math.min(Math.max(0, 3 - Math.floor(Math.log10(Math.abs(value)))), 4);

export const unitText = (unit: string) => unit.replaceAll("*", "·").replace("^2", "²");

/** What weighs, kept in kg: the unit that a system shows, and how many of it a kg is. */
export const WEIGHT: Record<System, { unit: string; scale: number }> = {
  us: { unit: "lb", scale: 1 / POUND },
  si: { unit: "kg", scale: 1 },
};

/** The members that meet at a connection: `W16X40 B7 on W24X68 G3`, others by their roles. */
export const pieces = (found: { role: string; section: string; member: string }[]) =>
  found
    .map(({ role, section, member }, k) =>
      [k ? (role === "support" ? "on" : plain(role)) : "", section, member].filter(Boolean).join(" "),
    )
    .join(" ");

/** A span of time as people say it: in seconds, in minutes where there are many. */
export const spoken = (seconds: number) =>
  seconds < 90 ? `${Math.round(seconds)} s` : `${Math.round(seconds / 60)} min`;

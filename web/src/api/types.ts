import type { components } from "./schema";

export type Job = components["schemas"]["JobAnswer"];
export type Me = components["schemas"]["Me"];
export type Run = components["schemas"]["RunAnswer"];
export type Override = components["schemas"]["OverrideAnswer"];
export type Status = "pass" | "fail" | "unchecked" | "unassigned" | "elsewhere";

export interface Row {
  connection: string;
  joint: string;
  framing: string;
  member: string;
  section: string;
  support: string;
  support_section: string;
  elevation: number;
  standard: string;
  rule: string;
  status: Status;
  utilisation: number;
  check: string;
  clause: string;
  action: string;
  reason: string;
  skew: number;
  slope: number;
  cope: string;
  overridden: number;
  version: number;
  sizes: { rows?: number; bolt?: string; plate_thickness?: number; plate_depth?: number; weld_size?: number };
}

export interface Parameter {
  name: string;
  kind: string;
  label: string;
  help: string;
  choices: string[];
  text: string;
  number: number | null;
  unit: string;
  source: string;
}

export interface Check {
  check: string;
  part: string;
  clause: string;
  demand: number;
  strength: number;
  unit: string;
  utilisation: number;
  action: string;
  limit: boolean;
  shown: { demand: number; strength: number; unit: string } | null;
  lines: string[];
}

export interface Rule {
  rule: string;
  part: string;
  given: number;
  limit: number;
  unit: string;
  ok: boolean;
  sense: string;
  clause: string;
}

export interface Peak {
  action: string;
  unit: string;
  max: number;
  max_in: string;
  min: number;
  min_in: string;
  carried: boolean;
}

export type Point = [number, number];
export interface Shape {
  part: string;
  points?: Point[];
  closed?: boolean;
  centre?: Point;
  radius?: number;
  style: string;
}
export interface Dimension {
  a: Point;
  b: Point;
  offset: number;
  text: string;
  parameter: string;
  side: string;
}
export interface Note {
  at: Point;
  to: Point;
  text: string;
  part: string;
  align: string;
  weld: string;
}
export interface View {
  title: string;
  shapes: Shape[];
  dimensions: Dimension[];
  notes: Note[];
}

export interface Connection extends Row {
  words: string;
  facts: Record<string, unknown>;
  system: "us" | "si";
  code: string;
  method: string;
  edition: string;
  target: number;
  parameters: Parameter[];
  checks: Check[];
  detailing: Rule[];
  notes: string[];
  remedy: string;
  peaks: Peak[];
  drawing: { views: View[] } | null;
  overrides: Override[];
  history: { event: string; words: string; author: string; made: string }[];
  neighbours: Row[];
}

export interface Model {
  title: string;
  system: "us" | "si";
  nodes: { node: string; xyz: [number, number, number] }[];
  members: { member: string; i: number; j: number; section: string; role: string; depth: number; width: number }[];
  connections: {
    connection: string;
    joint: string;
    status: Status;
    utilisation: number;
    framing: string;
    member: string;
  }[];
  without: { end: string; words: string }[];
}

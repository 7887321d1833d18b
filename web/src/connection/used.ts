import type { Figures, System } from "../api/types";

/** One combination with what it uses of the connection. */
export type Used = Figures["combinations"][number];
export type { System };

export const PULLED = "#b0322a";
export const SHEARED = "#7a5a12";
export const PRESSED = "#2f6f8f";

import type { HouseDesign } from "../api/types";

/** Where the drawing of a design is, without what is written on it. */
export const picture = (design: HouseDesign) =>
  `/api/v1/designs/${encodeURIComponent(design.name)}/${design.number}/picture?bare=true`;

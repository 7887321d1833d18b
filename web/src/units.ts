/** What the units of the other system are in the service's: mm, kN, kN·m, MPa, kg. */
export const INCH = 25.4;
export const KIP = 4.4482216;
export const KIP_FOOT = 1.3558179;
export const KSI = 6.894757;
export const POUND = 0.45359237;
export const TON = 2000 * POUND;

/** The systems of units that something can be told in. */
export const SYSTEMS = [
  { value: "us", words: "in, kip" },
  { value: "si", words: "mm, kN" },
];

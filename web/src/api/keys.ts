/** What the console keeps of the service's answers, by name, and what makes it old: whatever `moves` in its job; the
 *  same but `seldom` where the job is big; what is done to it `here`, or by what else stands in its key. */
const KEPT = {
  alternatives: "here",
  asked: "moves",
  attachments: "here",
  audit: "moves",
  causes: "here",
  combinations: "moves",
  comparison: "here",
  connection: "moves",
  connections: "seldom",
  decide: "here",
  decisions: "moves",
  earlier: "here",
  fewer: "moves",
  groups: "moves",
  house: "here",
  "house-maps": "here",
  imports: "moves",
  job: "moves",
  jobs: "here",
  me: "here",
  model: "seldom",
  "model-asked": "moves",
  "model-names": "here",
  "model-shape": "here",
  parts: "here",
  pattern: "moves",
  patterns: "moves",
  "output-tried": "moves",
  points: "moves",
  preview: "here",
  profiles: "here",
  progress: "moves",
  reserve: "moves",
  revised: "moves",
  revisions: "moves",
  rulebook: "moves",
  "rulebook-differing": "here",
  "rulebook-language": "here",
  "rulebook-on": "here",
  "rulebook-revisions": "moves",
  "rulebook-said": "here",
  "rulebook-tried": "here",
  "run-changes": "here",
  runs: "moves",
  schedule: "moves",
  standards: "here",
  steps: "here",
  survey: "moves",
  transmittal: "moves",
  "transmittal-preview": "moves",
  transmittals: "moves",
  understood: "here",
  verified: "moves",
  views: "moves",
  why: "moves",
} as const satisfies Record<string, "moves" | "seldom" | "here">;

export type Kept = keyof typeof KEPT;

/** The key of one of them: its name, and which one it is. */
export const key = (what: Kept, ...which: unknown[]): unknown[] => [what, ...which];

/** Those that are made old so. */
export const madeOld = (how: "moves" | "seldom"): Kept[] =>
  (Object.keys(KEPT) as Kept[]).filter((name) => KEPT[name] === how);

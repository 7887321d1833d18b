/** What meets what, as small pictures. */
const LINES: Record<string, string> = {
  beam_to_column_flange:
    "M9 3V33 M13 3V33 M22 3V33 M26 3V33 M9 3H13 M22 3H26 M9 33H13 M22 33H26 M28 11H44 M28 13H44 M28 23H44 M28 25H44",
  beam_to_column_web: "M6 3V33 M28 3V33 M16 3V33 M18 3V33 M20 11H44 M20 13H44 M20 23H44 M20 25H44",
  beam_to_girder: "M8 6H22 M8 8H22 M8 30H22 M8 28H22 M14 8V28 M16 8V28 M18 11H44 M18 13H44 M24 23H44 M18 25H44",
  beam_to_hollow_column: "M8 3V33 M26 3V33 M10 3V33 M24 3V33 M28 11H44 M28 13H44 M28 23H44 M28 25H44",
  beam_splice:
    "M4 9H24 M26 9H46 M4 27H24 M26 27H46 M4 11H24 M26 11H46 M4 25H24 M26 25H46 M15 7H35 M15 29H35 M17 14H33V22H17Z",
  column_splice: "M16 2V17 M34 2V17 M16 19V34 M34 19V34 M18 2V17 M32 2V17 M18 19V34 M32 19V34 M14 9V27 M36 9V27",
  column_base: "M18 2V25 M32 2V25 M20 2V25 M30 2V25 M10 25H40V28H10Z M6 30H44V36 M6 30V36 M14 28V36 M36 28V36",
};

export const Picture = ({ framing }: { framing: string }) => (
  <svg viewBox="0 0 50 36" className="h-8 w-12" aria-hidden="true">
    <path d={LINES[framing]} fill="none" stroke="currentColor" strokeWidth="1.3" />
  </svg>
);

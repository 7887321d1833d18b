/** What each kind of the catalogue is called. */
export const KINDS: Record<string, { one: string; all: string; used: string }> = {
  grade: { one: "a grade of steel", all: "Grades", used: "members and plates name it" },
  bolt: { one: "a group of bolts", all: "Bolts", used: "as in 3/4 NAME-N" },
  rod: { one: "a grade of anchor rods", all: "Anchor rods", used: "as in 1 NAME" },
  electrode: { one: "an electrode", all: "Electrodes", used: "welds name it" },
  surface: { one: "a faying surface", all: "Faying surfaces", used: "bolts are tightened slip_NAME on it" },
  section: { one: "a section", all: "Sections", used: "members and angles name it" },
};

import type { components } from "./schema";

type Answers = components["schemas"];

export type Status = Answers["ConnectionRow"]["status"];
export type System = Answers["Job"]["system"];
export type Job = Answers["Job"];
export type Jobs = Answers["Page_Job_"];
export type Me = Answers["Me"];
export type Run = Answers["Run"];
export type Runs = Answers["Page_Run_"];
export type Model = Answers["Model"];
export type Revision = Answers["Revision"];
export type Finding = Required<Answers["Finding"]>;
export type Row = Answers["ConnectionRow"];
export type Rows = Answers["Page_ConnectionRow_"];
export type Connection = Answers["Connection"];
export type Parameter = Answers["SizedParameter"];
export type Check = Answers["ShownCheck"];
export type Rule = Answers["DetailingRule"];
export type Peak = Answers["Peak"];
export type Override = Answers["Override"];
export type Side = Answers["Side"];
export type View = Answers["View"];
export type Shape = Answers["Shape"] | Answers["Circle"];
export type Dimension = Answers["Dimension"];
export type Note = Answers["Note"];
export type Point = [number, number];

import { useState } from "react";
import type { Connection, Parameter } from "../api/types";
import { OverrideDialog } from "../parts/override-dialog";

const TRIGGERS: Record<string, string> = {
  framing: "correct framing",
  support: "correct support",
  elsewhere: "not here",
  actions: "state actions",
};

/** Say that it is framed otherwise, or rests on another member: its joint is framed and checked again at once. */
export function Reframe({ job, data }: { job: string; data: Connection }) {
  const [open, setOpen] = useState("");
  const blank = {
    kind: "text",
    default: null,
    number: null,
    unit: "",
    formula: "",
    source: "the model",
    shared_with: [],
  };
  const asked: Parameter[] = [
    {
      ...blank,
      name: "framing",
      label: "Framing condition",
      text: data.framing,
      choices: data.may_be,
      help: "It holds through later revisions of the model until somebody clears it.",
    },
    {
      ...blank,
      name: "support",
      label: "Supporting member",
      text: data.support,
      choices: [],
      help: "A member that meets it at this joint.",
    },
    {
      ...blank,
      name: "elsewhere",
      label: "Not here",
      text: "",
      choices: ["none", "by others"],
      help: "No connection is needed here, or others do it; their files can be attached to the decision.",
    },
    ...(data.standard
      ? [
          {
            ...blank,
            name: "actions",
            label: "Actions to design for",
            text: "",
            choices: [],
            help: "In place of the model's, in every combination, like V = 26 kip, N = 5 kip.",
          },
        ]
      : []),
  ];
  return asked.map((parameter) => (
    <span key={parameter.name} className="ml-2 text-xs">
      <OverrideDialog
        job={job}
        data={data}
        parameter={parameter}
        open={open === parameter.name}
        setOpen={(now) => setOpen(now ? parameter.name : "")}
        trigger={TRIGGERS[parameter.name]}
      />
    </span>
  ));
}

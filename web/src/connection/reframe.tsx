import { useState } from "react";
import type { Connection, Parameter } from "../api/types";
import { OverrideDialog } from "../parts/override-dialog";

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
    shared_with: "",
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
  ];
  return asked.map((parameter) => (
    <span key={parameter.name} className="ml-2 text-xs">
      <OverrideDialog
        job={job}
        data={data}
        parameter={parameter}
        open={open === parameter.name}
        setOpen={(now) => setOpen(now ? parameter.name : "")}
        trigger={parameter.name === "framing" ? "correct framing" : "correct support"}
      />
    </span>
  ));
}

import { Check, ChevronDown } from "lucide-react";
import { Select } from "radix-ui";

export interface Option {
  value: string;
  words: string;
}

const NONE = "\u0000"; // a select takes no empty value

/** One of a few values, each in words. */
export function Choice({
  label,
  value,
  options,
  onChange,
  className = "",
}: {
  label: string;
  value: string;
  options: Option[];
  onChange: (value: string) => void;
  className?: string;
}) {
  return (
    <Select.Root value={value || NONE} onValueChange={(next) => onChange(next === NONE ? "" : next)}>
      <Select.Trigger
        aria-label={label}
        className={`flex items-center justify-between gap-2 rounded border border-line bg-white px-2 py-1 ${className}`}
      >
        <Select.Value />
        <Select.Icon>
          <ChevronDown size={13} className="text-faint" />
        </Select.Icon>
      </Select.Trigger>
      <Select.Portal>
        <Select.Content
          position="popper"
          sideOffset={4}
          className="z-40 max-h-(--radix-select-content-available-height) min-w-(--radix-select-trigger-width) overflow-hidden rounded-md border border-line bg-sheet p-1 shadow-lg"
        >
          <Select.Viewport>
            {options.map((option) => (
              <Select.Item
                key={option.value}
                value={option.value || NONE}
                className="flex cursor-pointer items-center justify-between gap-4 rounded px-2 py-1 outline-none data-[highlighted]:bg-paper"
              >
                <Select.ItemText>{option.words}</Select.ItemText>
                <Select.ItemIndicator>
                  <Check size={12} />
                </Select.ItemIndicator>
              </Select.Item>
            ))}
          </Select.Viewport>
        </Select.Content>
      </Select.Portal>
    </Select.Root>
  );
}

import type { ReactNode } from "react";

/** An area that scrolls, by mouse and by keyboard. */
export function Scroll({ label, className, children }: { label: string; className: string; children: ReactNode }) {
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: without it the keyboard cannot scroll the area
    <section aria-label={label} tabIndex={0} className={`overflow-y-auto ${className}`}>
      {children}
    </section>
  );
}

import type { ReactNode } from "react";

/** Something wider than a phone: it scrolls sideways on its own, with the keys as well. */
export function Wide({ label, className = "", children }: { label: string; className?: string; children: ReactNode }) {
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reached by the keys
    <section aria-label={label} tabIndex={0} className={`relative overflow-x-auto ${className}`}>
      {children}
    </section>
  );
}

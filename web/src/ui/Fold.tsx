import { type ReactNode, startTransition, useEffect, useState } from "react";
import { usePointedPath } from "../job/usePointing";

const LATER_MS = 300;

/**
 * What is seldom needed, folded away under its words.
 *
 * A step stands before the folded parts of it are drawn: they come a moment later, or as soon as one opens them or was sent
 * to a thing that may be inside.
 */
export function Fold({
  words,
  path,
  open = false,
  className = "border-t border-rule-faint pt-2",
  children,
}: {
  words: ReactNode;
  path?: string;
  open?: boolean;
  className?: string;
  children: ReactNode;
}) {
  const pointed = usePointedPath();
  const [drawn, setDrawn] = useState(open || !!pointed);
  useEffect(() => {
    if (drawn) return;
    const later = setTimeout(() => startTransition(() => setDrawn(true)), LATER_MS);
    return () => clearTimeout(later);
  }, [drawn]);
  return (
    <details
      data-path={path}
      className={className}
      open={open || undefined}
      onToggle={(event) => event.currentTarget.open && setDrawn(true)}
    >
      <summary className="cursor-pointer text-[0.9062rem] font-medium pointer-coarse:min-h-11 pointer-coarse:py-2.5">
        {words}
      </summary>
      {drawn && children}
    </details>
  );
}

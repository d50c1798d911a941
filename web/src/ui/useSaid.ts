import { useEffect, useRef } from "react";

/** What a field said last, which may not have come back yet: whether its words say anything new, to be said once. */
export function useSaid(shown: string): { saysNew: (words: string) => boolean; say: (words: string) => void } {
  const said = useRef(shown);
  useEffect(() => {
    said.current = shown;
  }, [shown]);
  return {
    // A field that was only passed through says nothing.
    saysNew: (words) => words !== shown || words !== said.current,
    say: (words) => {
      said.current = words;
    },
  };
}

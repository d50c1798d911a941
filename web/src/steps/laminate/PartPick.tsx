import { useState } from "react";
import type { Part } from "../../api/client";
import { useJob } from "../../job/context";
import { usePointedPath } from "../../job/usePointing";
import { Choice } from "../../ui/Choice";

/** The part in hand, with the control that changes it where there are several. */
export function usePart(): { part: Part | undefined; index: number; picker: React.ReactNode } {
  const { document } = useJob();
  const parts = document.parts;
  const [, pointed = ""] = usePointedPath().match(/^parts\.(\d+)/) ?? [];
  const [chosen, choose] = useState(parts[Number(pointed)]?.id ?? "");
  const index = Math.max(
    0,
    parts.findIndex((part) => part.id === chosen),
  );
  const part = parts[index];
  const options = parts.map((other, at) => [other.id, other.name || `part ${at + 1}`] as const);
  const picker =
    parts.length > 1 && part ? (
      <Choice looks label="Part" value={part.id} options={options} onChange={choose} hideLabel />
    ) : null;
  return { part, index, picker };
}

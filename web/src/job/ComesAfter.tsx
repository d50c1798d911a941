import type { JobSpec } from "../api/client";
import { Button } from "../ui/Button";
import { Pick } from "../ui/Pick";
import { useJob } from "./context";

/** All that can be laid, by its id, as it is called. */
export function namesOf(document: JobSpec): Map<string, string> {
  return new Map([
    ...document.parts.map((part, at) => [part.id, part.name || `part ${at + 1}`] as const),
    ...document.joints.map((joint, at) => [joint.id, joint.name || `joint ${at + 1}`] as const),
    ...document.pours.map((pour, at) => [pour.id, pour.name || `casting ${at + 1}`] as const),
  ]);
}

/** What is laid before a thing, where the builder says so. */
export function ComesAfter({
  id,
  path,
  value,
  onChange,
}: {
  id: string;
  path: string;
  value: string[];
  onChange: (ids: string[]) => void;
}) {
  const { document } = useJob();
  const names = namesOf(document);
  names.delete(id);
  if (!names.size) return null;
  return (
    <div data-path={path}>
      <Pick
        label="Laid after"
        path={path}
        value=""
        placeholder={value.length ? "and after" : "as usual"}
        options={[...names].filter(([other]) => !value.includes(other))}
        onChange={(other) => onChange([...value, other])}
      />
      {value.map((other) => (
        <p key={other} className="mt-1 flex items-center justify-between gap-2 text-[0.9062rem]">
          <span>after {names.get(other) ?? "what is no longer here"}</span>
          <Button
            edits
            look="text"
            aria-label={`No longer after ${names.get(other) ?? "it"}`}
            onClick={() => onChange(value.filter((each) => each !== other))}
          >
            Remove
          </Button>
        </p>
      ))}
    </div>
  );
}

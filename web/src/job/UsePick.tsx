import { Pick } from "../ui/Pick";
import { useJob } from "./context";
import { useNameOf } from "./resins";

/** Stands for none in a list, which holds no empty value. */
const NONE = "-";

/** Which of the job's resins something is laid in; nothing to choose where the job has one. */
export function UsePick({
  value,
  path,
  label = "Laid in",
  usual,
  onChange,
}: {
  value: string;
  path: string;
  label?: string;
  /** What is meant where none is named, if that is not the job's first resin. */
  usual?: string;
  onChange: (use_id: string) => void;
}) {
  const { document } = useJob();
  const nameOf = useNameOf();
  if (document.resins.length < 2) return null;
  const first = document.resins[0]?.id ?? "";
  const options = document.resins.map((use) => [use.id, nameOf(use)] as const);
  return (
    <Pick
      label={label}
      path={path}
      value={value || (usual ? NONE : first)}
      placeholder="choose its resin"
      options={usual ? [[NONE, usual] as const, ...options] : options}
      onChange={(id) => onChange(id === NONE || (!usual && id === first) ? "" : id)}
    />
  );
}

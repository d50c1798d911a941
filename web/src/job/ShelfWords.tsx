import { useQuery } from "@tanstack/react-query";
import { client, type ShelfWord, taken } from "../api/client";
import { Button } from "../ui/Button";
import { useJob, withMaterial } from "./context";

const held = { fabric: "fabrics", resin: "resins", filler: "fillers" } as const;

/** What the shelf says since this job took its copies: a product is newer there, or retired. */
export function ShelfWords({ kinds }: { kinds: readonly (keyof typeof held)[] }) {
  const { job, document, library, edit } = useJob();
  const { data } = useQuery({
    queryKey: ["job-shelf", job.id],
    queryFn: () => taken(client.GET("/api/jobs/{job_id}/shelf", { params: { path: { job_id: job.id } } })),
    refetchOnMount: "always",
  });
  /** Whether the job's copy still differs: it may have been taken over, or left out, since the shelf was asked. */
  const differs = ({ kind, id }: ShelfWord) => {
    const shelf = held[kind as keyof typeof held];
    const copy = document.materials[shelf].find((other) => other.id === id);
    const now = library[shelf]?.find((other) => other.id === id);
    return copy !== undefined && JSON.stringify(copy) !== JSON.stringify(now);
  };
  const takeOver = ({ kind, id }: ShelfWord) => {
    const shelf = held[kind as keyof typeof held];
    const newer = library[shelf]?.find((other) => other.id === id);
    if (!newer) return;
    edit((before) => ({
      ...before,
      materials: { ...before.materials, [shelf]: withMaterial(before.materials[shelf] as never, newer as never) },
    }));
  };
  const words = (data ?? []).filter((word) => kinds.includes(word.kind as keyof typeof held) && differs(word));
  return words.map((word) => (
    <p key={word.id} className="border-l border-mid pl-3 text-[0.875rem]">
      {word.retired ? (
        <>
          <b>{word.name}</b> is retired on the shelf. This job goes on with its copy.
        </>
      ) : (
        <>
          <b>{word.name}</b> is newer on the shelf: {word.changes.join(", ")}.{" "}
          <Button edits look="text" onClick={() => takeOver(word)}>
            Take it over
          </Button>
        </>
      )}
    </p>
  ));
}

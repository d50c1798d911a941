/** A photo of a run, small; pressed, whole. */
export function Snapshot({ runId, eventId }: { runId: string; eventId: number }) {
  const place = `/api/runs/${runId}/photos/${eventId}`;
  return (
    <a href={place} target="_blank" rel="noreferrer" className="mt-1 block w-fit min-w-16">
      <img src={place} alt="on the bench" loading="lazy" className="h-28 min-w-16 border border-rule object-cover" />
    </a>
  );
}

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Part, type Schemas, taken } from "../../api/client";
import { plural } from "../../format";
import { newId, useJob } from "../../job/context";
import { useMayWrite, useShop } from "../../shop";
import { Button } from "../../ui/Button";
import { FilePick } from "../../ui/FilePick";
import { Fold } from "../../ui/Fold";
import { NoteField } from "../../ui/NoteField";

type Photo = Schemas["PartPhotoOut"];
const MOST_LETTERS = 1000;

/** What people say and show of a part, for each other. */
export function PartNotes({ part, index, onNote }: { part: Part; index: number; onNote: (note: string) => void }) {
  const { job, saving } = useJob();
  const { day } = useShop();
  const mayWrite = useMayWrite();
  const queries = useQueryClient();
  const key = ["part photos", job.id];
  const path = { job_id: job.id };
  const photos = useQuery({
    queryKey: key,
    queryFn: () => taken(client.GET("/api/jobs/{job_id}/photos", { params: { path } })),
  });
  const own = photos.data?.filter((photo) => photo.part_id === part.id) ?? [];
  const add = useMutation({
    mutationFn: async (file: File) => {
      const form = new FormData();
      form.append("id", crypto.randomUUID?.() ?? newId());
      form.append("part_id", part.id);
      form.append("photo", file);
      return taken(
        client.POST("/api/jobs/{job_id}/photos", {
          params: { path },
          body: form as never,
          bodySerializer: (body: unknown) => body as FormData,
        }),
      );
    },
    onSuccess: (next) => queries.setQueryData(key, next),
  });
  const told = [part.note && "a note", own.length && plural(own.length, "photo")].filter(Boolean).join(", ");
  return (
    <Fold path={`parts.${index}.notes`} words={<>Note and photos{told && <span className="lab"> · {told}</span>}</>}>
      <div className="mt-3 space-y-3">
        <NoteField
          label="Note"
          path={`parts.${index}.note`}
          value={part.note ?? ""}
          most={MOST_LETTERS}
          placeholder="for whoever works on it next"
          onCommit={onNote}
        />
        {own.length > 0 && (
          <ul aria-label={`Photos of ${part.name || "this part"}`} className="grid grid-cols-3 gap-2">
            {own.map((photo) => (
              <Shown
                key={photo.id}
                photo={photo}
                words={`${day(photo.at)}, ${photo.by}`}
                onLeft={(next) => queries.setQueryData(key, next)}
              />
            ))}
          </ul>
        )}
        {mayWrite && (
          <FilePick label={`Photo of ${part.name || "this part"}`} accept="image/*" onFile={(file) => add.mutate(file)}>
            {add.isPending ? "sending …" : saving === "saved" ? "Add a photo" : "Add a photo, once it is saved"}
          </FilePick>
        )}
        {add.error && (
          <p role="alert" className="text-[0.875rem] text-stop">
            The photo {add.error.message}
          </p>
        )}
      </div>
    </Fold>
  );
}

function Shown({ photo, words, onLeft }: { photo: Photo; words: string; onLeft: (next: Photo[]) => void }) {
  const { job } = useJob();
  const [asked, ask] = useState(false);
  const path = { job_id: job.id, photo_id: photo.id };
  const remove = useMutation({
    mutationFn: () => taken(client.DELETE("/api/jobs/{job_id}/photos/{photo_id}", { params: { path } })),
    onSuccess: onLeft,
  });
  const address = `/api/jobs/${job.id}/photos/${photo.id}`;
  return (
    <li>
      <a href={address} target="_blank" rel="noreferrer" title="Open it whole">
        <img src={address} alt={words} className="aspect-square w-full object-cover" />
      </a>
      <p className="lab leading-tight">{words}</p>
      {asked ? (
        <Button edits look="text" onClick={() => remove.mutate()}>
          Yes, remove it
        </Button>
      ) : (
        <Button edits look="text" aria-label={`Remove the photo of ${words}`} onClick={() => ask(true)}>
          Remove
        </Button>
      )}
    </li>
  );
}

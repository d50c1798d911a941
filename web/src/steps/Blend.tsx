import { Slider } from "radix-ui";
import { useState } from "react";
import type { BlendResult, Chemistry, ResinInUse } from "../api/client";
import { minutes } from "../format";
import { Choice } from "../ui/Choice";

const LEAST = 0.05;

/** A share of the next hardener of the family, to drag: what lies between two lives. */
export function Blend({
  chemistry,
  spec,
  path,
  change,
}: {
  chemistry: Chemistry;
  spec: ResinInUse;
  path: string;
  change: (next: Partial<ResinInUse>) => void;
}) {
  const blends = chemistry.blends ?? [];
  const [withId, setWithId] = useState(spec.blend_id ?? blends[0]?.with_id);
  const blend = blends.find((other) => other.with_id === (spec.blend_id ?? withId)) ?? blends[0];
  if (!blend) return null;
  const first =
    chemistry.hardeners.find((row) => row.id === spec.hardener_id) ?? chemistry.hardeners.find((row) => row.chosen);
  if (!first) return null;
  const share = spec.blend_id ? (spec.blend_share ?? 0.5) : 0;
  const take = (next: number) => {
    if (next < LEAST) return change({ blend_id: null });
    if (next > 1 - LEAST) return change({ hardener_id: blend.with_id, blend_id: null });
    change({ hardener_id: spec.blend_id ? spec.hardener_id : first.id, blend_id: blend.with_id, blend_share: next });
  };
  return (
    <section aria-label="Blend" data-path={`${path}.blend_id`}>
      <div className="flex items-end justify-between gap-3">
        <h2 className="text-[1rem] font-semibold">
          {spec.blend_id
            ? `${Math.round(share * 100)} % ${blend.with_name} in ${first.name}`
            : `Blend into ${first.name}`}
        </h2>
        {blends.length > 1 && !spec.blend_id && (
          <Choice
            label="with"
            value={blend.with_id}
            options={blends.map((other) => [other.with_id, other.with_name] as const)}
            onChange={setWithId}
          />
        )}
      </div>
      <Slider.Root
        min={0}
        max={1}
        step={0.05}
        value={[share]}
        onValueChange={([next]) => next !== undefined && take(next)}
        className="relative mt-1 flex h-9 touch-none items-center select-none"
      >
        <Slider.Track className="relative h-2 w-full bg-rule">
          <Slider.Range className="absolute h-full bg-mid" />
        </Slider.Track>
        <Slider.Thumb
          aria-label={`Share of ${blend.with_name}`}
          aria-valuetext={`${Math.round(share * 100)} % ${blend.with_name}`}
          className="relative block h-5 w-5 cursor-grab rounded-full border-[3px] border-ink bg-sheet after:absolute after:-inset-3 active:cursor-grabbing"
        />
      </Slider.Root>
      <div className="lab flex justify-between">
        <span>
          all {first.name}, {lifeAt(blend, 0)}
        </span>
        <span>half and half, {lifeAt(blend, 0.5)}</span>
        <span>
          all {blend.with_name}, {lifeAt(blend, 1)}
        </span>
      </div>
    </section>
  );
}

function lifeAt(blend: BlendResult, share: number): string {
  const point = blend.points.find((other) => Math.abs(other.share - share) < 1e-9);
  return point ? `${minutes(point.life_min)} min` : "";
}

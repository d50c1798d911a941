import type { Schemas } from "../api/client";

export const inFull = (day: string) =>
  new Date(day).toLocaleDateString("en-GB", { dateStyle: "long", timeZone: "UTC" });

/** What changed, version by version, in words for builders. */
export function Changes({ versions }: { versions: Schemas["Version"][] }) {
  return (
    <>
      <h1 className="text-[1.625rem] font-semibold">What changed</h1>
      {versions.map(({ version, on, words }) => (
        <section key={version} aria-labelledby={`v-${version}`} className="mt-4 max-w-[68ch]">
          <h2 id={`v-${version}`} className="text-[1.1875rem] font-semibold">
            {version} <span className="lab font-normal">{inFull(on)}</span>
          </h2>
          <ul className="mt-1 list-disc space-y-1 pl-5">
            {words.map((each) => (
              <li key={each}>{each}</li>
            ))}
          </ul>
        </section>
      ))}
    </>
  );
}

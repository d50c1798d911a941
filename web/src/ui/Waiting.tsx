/** The bones of what is still being worked out, with a word; not shown where it is there at once. */
export function Waiting({ words, tall = "min-h-[60dvh]" }: { words: string; tall?: string }) {
  return (
    <div aria-busy="true" className={`late flex flex-col gap-3 px-4 py-6 ${tall}`}>
      <p role="status" className="lab">
        {words}
      </p>
      <div aria-hidden className="h-7 w-2/5 rounded-(--radius) bg-rule-faint" />
      <div aria-hidden className="h-4 w-3/5 rounded-(--radius) bg-rule-faint" />
      <div aria-hidden className="min-h-24 w-full flex-1 rounded-(--radius) bg-rule-faint" />
    </div>
  );
}

import { useRef } from "react";
import { Button } from "./Button";

/** A button that asks for one file; the same file may be given again. */
export function FilePick({
  label,
  accept,
  look = "plain",
  className,
  children,
  onFile,
}: {
  label: string;
  accept: string;
  look?: "plain" | "text";
  className?: string;
  children: string;
  onFile: (file: File) => void;
}) {
  const picker = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={picker}
        type="file"
        accept={accept}
        aria-label={label}
        tabIndex={-1}
        className="sr-only"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) onFile(file);
          event.target.value = "";
        }}
      />
      <Button edits look={look} className={className} onClick={() => picker.current?.click()}>
        {children}
      </Button>
    </>
  );
}

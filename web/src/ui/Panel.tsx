import { Dialog } from "radix-ui";
import type { ReactNode } from "react";

/** A sheet laid over the screen; Escape or the cross puts it away. */
export function Panel({
  title,
  open,
  onClose,
  children,
}: {
  title: string;
  open: boolean;
  onClose: () => void;
  children: ReactNode;
}) {
  return (
    <Dialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-50 max-h-[88dvh] w-[min(640px,94vw)] -translate-x-1/2 -translate-y-1/2 overflow-auto rounded-(--radius) border border-ink bg-sheet p-5"
        >
          <div className="mb-3 flex items-start justify-between gap-4">
            <Dialog.Title className="text-[1.25rem] font-semibold">{title}</Dialog.Title>
            <Dialog.Close
              aria-label="Close"
              className="min-h-9 min-w-9 text-[1.25rem] leading-none hover:bg-rule-faint"
            >
              ×
            </Dialog.Close>
          </div>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

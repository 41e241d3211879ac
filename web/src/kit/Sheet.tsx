import { Dialog } from "radix-ui";
import type { ReactNode } from "react";

interface Props {
  open: boolean;
  onClose: () => void;
  title: string;
  /** Much to read: as wide as lines can be. */
  wide?: boolean;
  children: ReactNode;
}

/** A sheet laid over the page: a question, or something to look up. */
export function Sheet({ open, onClose, title, wide = false, children }: Props) {
  return (
    <Dialog.Root open={open} onOpenChange={(now) => !now && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-iron/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className={`fixed top-1/2 left-1/2 z-50 max-h-[90vh] ${wide ? "w-[min(94vw,820px)]" : "w-[min(92vw,560px)]"} -translate-x-1/2 -translate-y-1/2 overflow-y-auto border border-iron bg-paper p-6`}
        >
          <Dialog.Title className="mb-3 text-[1.3rem]">{title}</Dialog.Title>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

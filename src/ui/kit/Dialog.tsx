"use client";

import { Dialog as Radix } from "radix-ui";
import { useState, type ReactNode } from "react";

type Props = {
  open: boolean;
  onClose: () => void;
  title: string;
  children: ReactNode;
  wide?: boolean;
};

/** A dialog on the page: titled, closed by Escape, and the focus goes back to where it came from. */
export function Dialog({ open, onClose, ...rest }: Props) {
  return (
    <Radix.Root open={open} onOpenChange={(next) => (next ? undefined : onClose())}>
      <Radix.Portal>
        <Opened {...rest} />
      </Radix.Portal>
    </Radix.Root>
  );
}

/** Made when the dialog opens, while what had the focus still has it: a key opens dialogs as a button does. */
function Opened({ title, children, wide }: Omit<Props, "open" | "onClose">) {
  const [from] = useState(() => document.activeElement);
  return (
    <>
      <Radix.Overlay className="fixed inset-0 z-40 bg-ink/25" />
      <Radix.Content
        aria-describedby={undefined}
        onCloseAutoFocus={(event) => {
          event.preventDefault();
          // Whoever closed it may have put the focus where work goes on.
          if (document.activeElement === document.body && from instanceof HTMLElement)
            from.focus({ preventScroll: true });
        }}
        className={`fixed left-1/2 top-1/2 z-50 max-h-[86dvh] w-[min(92vw,var(--width))] -translate-x-1/2 -translate-y-1/2 overflow-auto rounded-[4px] border border-line-strong bg-raised p-6 shadow-lifted ${wide ? "[--width:52rem]" : "[--width:32rem]"}`}
      >
        <div className="flex items-start justify-between gap-4">
          <Radix.Title>{title}</Radix.Title>
          <Radix.Close
            aria-label="Close"
            className="-mr-2 -mt-1 size-9 cursor-pointer text-xl text-soft hover:text-ink"
          >
            ×
          </Radix.Close>
        </div>
        <div className="mt-3">{children}</div>
      </Radix.Content>
    </>
  );
}

"use client";

import { Dialog as Radix } from "radix-ui";
import { useRef, useState, type ReactNode } from "react";

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

const FIELDS =
  "input:not([type=hidden]):not(:disabled), textarea:not(:disabled), select:not(:disabled), [contenteditable=true]";
const ACTS = "button:not(:disabled), a[href], summary";

/** What is to be filled in first, else what can be pressed first: never the cross. */
const firstIn = (body: HTMLElement | null): HTMLElement | null =>
  body?.querySelector<HTMLElement>(FIELDS) ?? body?.querySelector<HTMLElement>(ACTS) ?? null;

/** Made when the dialog opens, while what had the focus still has it: a key opens dialogs as a button does. */
function Opened({ title, children, wide }: Omit<Props, "open" | "onClose">) {
  const [from] = useState(() => document.activeElement);
  const body = useRef<HTMLDivElement>(null);
  return (
    <>
      <Radix.Overlay className="fixed inset-0 z-40 bg-ink/25" />
      <Radix.Content
        aria-describedby={undefined}
        onOpenAutoFocus={(event) => {
          // A field that asks for the focus itself has it already. What is still being fetched comes too late: the
          // dialog itself has it then.
          const first = firstIn(body.current);
          if (!first || body.current?.contains(document.activeElement)) return;
          event.preventDefault();
          first.focus();
        }}
        onEscapeKeyDown={(event) => {
          // What lies over the dialog is closed first: the month of a date.
          if (document.querySelector("[popover]:popover-open")) event.preventDefault();
        }}
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
        <div ref={body} className="mt-3">
          {children}
        </div>
      </Radix.Content>
    </>
  );
}

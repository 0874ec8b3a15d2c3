"use client";

import { Dialog } from "../kit/Dialog";
import { DESK_KEYS } from "./keys";

export function KeysCard({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog open={open} onClose={onClose} title="Keys of the Desk" wide>
      <dl className="grid gap-x-8 gap-y-1 sm:grid-cols-2">
        {DESK_KEYS.map((entry) => (
          <div key={entry.key} className="flex gap-3 border-b border-line py-1">
            <dt className="w-20 shrink-0">
              <kbd className="border border-line-strong bg-sunk px-1.5">{"shown" in entry ? entry.shown : entry.key}</kbd>
            </dt>
            <dd>{entry.words}</dd>
          </div>
        ))}
        <div className="flex gap-3 border-b border-line py-1">
          <dt className="w-20 shrink-0">
            <kbd className="border border-line-strong bg-sunk px-1.5">1</kbd> … <kbd className="border border-line-strong bg-sunk px-1.5">9</kbd>
          </dt>
          <dd>favourite comment on the selected words</dd>
        </div>
      </dl>
      <p className="mt-4 text-sm text-soft">In a field: Enter keeps a note, Shift+Enter begins a new line, Escape leaves.</p>
    </Dialog>
  );
}

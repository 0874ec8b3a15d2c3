"use client";

import type { MastheadView } from "@/core/views/overviewViews";
import { Dialog } from "../kit/Dialog";
import { guideOf } from "./guides";

/** The keys of the head of every page. */
const EVERYWHERE: Partial<Record<MastheadView["kind"], [string, string][]>> = {
  teacher: [
    ["a", "hand out"],
    ["/", "find"],
    ["?", "this card"],
  ],
};
const USUAL: [string, string][] = [
  ["/", "find"],
  ["?", "this card"],
];

export function GuideCard({
  kind,
  pathname,
  onClose,
}: {
  kind: MastheadView["kind"];
  pathname: string;
  onClose: () => void;
}) {
  const guide = guideOf(kind, pathname);
  const keys = [...(guide?.keys ?? []), ...(EVERYWHERE[kind] ?? USUAL)];
  return (
    <Dialog open onClose={onClose} title="About this screen">
      {guide ? (
        <>
          <p className="font-serif text-lg">{guide.what}</p>
          <p className="mt-3">
            <span className="label mr-2">first</span>
            {guide.first}
          </p>
        </>
      ) : null}
      <dl className="mt-4 grid grid-cols-[auto_1fr] gap-x-4 gap-y-1 border-t border-line pt-3">
        {keys.map(([key, words]) => (
          <div key={key} className="contents">
            <dt>
              <kbd>{key}</kbd>
            </dt>
            <dd>{words}</dd>
          </div>
        ))}
      </dl>
      {kind === "teacher" ? (
        <p className="mt-3 text-sm text-soft">
          Keys of one letter can wait for Ctrl+. or do nothing: Password and devices.
        </p>
      ) : null}
    </Dialog>
  );
}

"use client";

import { useRouter } from "next/navigation";
import { useState } from "react";
import { contract } from "@/core/api/contract";
import { call } from "../client";
import { Button } from "../kit/Button";
import { Chip } from "../kit/Choices";
import { Dialog } from "../kit/Dialog";
import { Notice } from "../kit/Notice";
import { useAct } from "../useAct";

/** Copies a hand-out to sections, as a draft that is looked over before anything is handed out. */
export function CopyDialog({
  handOutId,
  title,
  sections,
  first,
  onClose,
}: {
  handOutId: string;
  title: string;
  sections: readonly { id: string; name: string }[];
  first: readonly string[];
  onClose: () => void;
}) {
  const router = useRouter();
  const { act, busy, problem } = useAct();
  const [targets, setTargets] = useState<string[]>([...first]);
  const copy = () =>
    act(() =>
      call(contract.copyHandOut, { params: { handOutId }, body: { sectionIds: targets } }),
    ).then((made) => made && router.push(`/hand-out?draft=${made.draftId}`));
  return (
    <Dialog open onClose={onClose} title={title}>
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      <p className="mb-3">
        For which sections? Its dates move from the lesson it was due in to the corresponding lesson
        of each; you see them before anything is handed out.
      </p>
      <div className="flex flex-wrap gap-2" role="group" aria-label="To">
        {sections.map((section) => (
          <Chip
            key={section.id}
            chosen={targets.includes(section.id)}
            onToggle={() =>
              setTargets((old) =>
                old.includes(section.id)
                  ? old.filter((id) => id !== section.id)
                  : [...old, section.id],
              )
            }
          >
            {section.name}
          </Chip>
        ))}
      </div>
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>Not now</Button>
        <Button ink="tide" disabled={busy || targets.length === 0} onClick={() => void copy()}>
          Make the copy
        </Button>
      </div>
    </Dialog>
  );
}

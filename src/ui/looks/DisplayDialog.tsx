"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import { sayCount } from "@/core/text/sayCount";
import type { DisplaySettings, ShownOfSheet } from "@/core/views/lookViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { RadioLine } from "../kit/Choices";
import { Dialog } from "../kit/Dialog";
import { CheckField } from "../kit/Field";
import { Notice } from "../kit/Notice";
import { WhenField } from "../kit/WhenField";
import { useAct } from "../useAct";

type Props = {
  handOutId: string;
  /** What is offered as its end, as a wall-clock time. */ nextLesson: string;
  handedIn: ShownOfSheet["handedIn"];
  first: ShownOfSheet["display"];
  onClose: () => void;
};

/** As it is now; or, for a new one, careful: read first, for those who have handed in. */
function beginWith(first: Props["first"], nextLesson: string): DisplaySettings {
  if (!first)
    return {
      ...{ shows: "all", pieceIds: [], named: true, readFirst: true, onlyHandedIn: true },
      closes: nextLesson,
    };
  const { shows, pieceIds, named, readFirst, onlyHandedIn } = first;
  const closes = first.open ? first.closes : nextLesson;
  return { shows, pieceIds, named, readFirst, onlyHandedIn, closes };
}

/** Opens a display, or changes the one that is open: whose work, until when, with names or without. */
export function DisplayDialog({ handOutId, nextLesson, handedIn, first, onClose }: Props) {
  const { act, busy, problem, fields } = useAct();
  const [how, setHow] = useState(() => beginWith(first, nextLesson));
  const change = (part: Partial<DisplaySettings>) => setHow((old) => ({ ...old, ...part }));
  const toggle = (id: string, on: boolean) =>
    change({ pieceIds: how.pieceIds.filter((other) => other !== id).concat(on ? [id] : []) });
  const save = () =>
    act(() =>
      call(contract.openDisplay, {
        params: { handOutId },
        body: how,
      }),
    ).then((done) => done && onClose());
  return (
    <Dialog open onClose={onClose} title="Display: classmates see each other’s handed-in work">
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        {problem ? <Notice ink="ember">{problem}</Notice> : null}
        <RadioLine
          label="what is shown"
          value={how.shows}
          onChange={(shows) => change({ shows })}
          choices={[
            { value: "all", words: `all that is handed in (${handedIn.length} now)` },
            { value: "chosen", words: "chosen pieces" },
          ]}
        />
        {how.shows === "chosen" ? (
          <fieldset className="max-h-48 overflow-auto border border-line p-2">
            <legend className="label">{sayCount(how.pieceIds.length, "piece")} chosen</legend>
            {handedIn.map((piece) => (
              <CheckField
                key={piece.pieceId}
                label={piece.name}
                checked={how.pieceIds.includes(piece.pieceId)}
                onChange={(event) => toggle(piece.pieceId, event.target.checked)}
              />
            ))}
            {fields.pieceIds ? <p className="text-ember">▲ {fields.pieceIds}</p> : null}
          </fieldset>
        ) : null}
        <WhenField
          label="It closes"
          kind="both"
          value={how.closes}
          error={fields.closes}
          onChange={(typed) => change({ closes: typed })}
        />
        <CheckField
          label="With names"
          hint="Without, neither work nor comments say whose they are; you see it."
          checked={how.named}
          onChange={(event) => change({ named: event.target.checked })}
        />
        <CheckField
          label="I read first what students say"
          checked={how.readFirst}
          onChange={(event) => change({ readFirst: event.target.checked })}
        />
        <CheckField
          label="Only for those who have handed in"
          checked={how.onlyHandedIn}
          onChange={(event) => change({ onlyHandedIn: event.target.checked })}
        />
        <p className="text-sm text-soft">
          Feedback, scores and threads are never shown. When it closes, classmates see nothing of it
          any more; what was said stays with its writer.
        </p>
        <span>
          <Button type="submit" ink="tide" disabled={busy}>
            {first?.open ? "Keep" : "Open it"}
          </Button>
        </span>
      </form>
    </Dialog>
  );
}

"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { LookReaders } from "@/core/looks/shown";
import type { ShownOfSheet } from "@/core/views/lookViews";
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
  /** What is offered as their end, as a wall-clock time. */ nextLesson: string;
  first: ShownOfSheet["looks"];
  onClose: () => void;
};

/** Lets students ask each other for a look before they hand in: whom, until when, with names or without. */
export function LooksDialog({ handOutId, nextLesson, first, onClose }: Props) {
  const { act, busy, problem, fields } = useAct();
  const [readers, setReaders] = useState<LookReaders>(first?.readers ?? "pairs");
  const [named, setNamed] = useState(first?.named ?? true);
  const [readFirst, setReadFirst] = useState(first?.readFirst ?? false);
  const [ends, setEnds] = useState(first?.open ? first.ends : nextLesson);
  const save = () =>
    act(() =>
      call(contract.setLookRule, {
        params: { handOutId },
        body: { readers, named, readFirst, ends },
      }),
    ).then((done) => done && onClose());
  return (
    <Dialog open onClose={onClose} title="Looks of classmates before handing in">
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        {problem ? <Notice ink="ember">{problem}</Notice> : null}
        <RadioLine
          label="who may be asked"
          value={readers}
          onChange={setReaders}
          choices={[
            { value: "pairs", words: "drawn: everyone gives one and gets one" },
            { value: "group", words: "those of a common group" },
            { value: "all", words: "anyone who has this work" },
          ]}
        />
        <WhenField
          label="Until"
          kind="both"
          value={ends}
          error={fields.ends}
          onChange={(typed) => setEnds(typed)}
        />
        <CheckField
          label="With names"
          hint="Without, the program says who reads; you see it."
          checked={named}
          onChange={(event) => setNamed(event.target.checked)}
        />
        <CheckField
          label="I read first what they say"
          checked={readFirst}
          onChange={(event) => setReadFirst(event.target.checked)}
        />
        <p className="text-sm text-soft">
          A student asks about a place in their work; the classmate sees that work only, comments
          and offers edits, which the writer accepts or declines. You see all of it.
        </p>
        <span>
          <Button type="submit" ink="tide" disabled={busy}>
            {first?.open ? "Keep" : "Let them ask"}
          </Button>
        </span>
      </form>
    </Dialog>
  );
}

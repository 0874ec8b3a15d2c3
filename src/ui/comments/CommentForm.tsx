"use client";

import { useEffect, useState } from "react";
import { contract } from "@/core/api/contract";
import { unfilled } from "@/core/comments/placeholders";
import {
  COMMENT_KINDS,
  commentBodyOf,
  wholeComment,
  type BankComment,
  type Share,
} from "@/core/comments/schema";
import { STAMP_SIGNS } from "@/core/marks/mark";
import type { MarkKind } from "@/core/marks/schema";
import { call, Problem, sayProblem } from "../client";
import { Button } from "../kit/Button";
import { ChooseOrMake } from "../kit/ChooseOrMake";
import { CheckField, TextArea, TextField } from "../kit/Field";
import { RadioLine, SelectField } from "../kit/Choices";
import { Dialog } from "../kit/Dialog";
import { Notice } from "../kit/Notice";
import { Speak } from "../voice/Speak";

/** A comment as it is typed: what can be empty is a text here. */
export type CommentForm = Omit<BankComment, "shorthand" | "favourite" | "tags" | "points"> & {
  id: string | null;
  revision: number;
  shorthand: string;
  favourite: string;
  tags: string;
  points: string;
};

export const formOf = (comment: BankComment & { id?: string; revision?: number }): CommentForm => ({
  ...comment,
  id: comment.id ?? null,
  revision: comment.revision ?? 0,
  shorthand: comment.shorthand ?? "",
  favourite: comment.favourite ? String(comment.favourite) : "",
  tags: comment.tags.join(", "),
  points: comment.points ?? "",
});
export const NEW_COMMENT: CommentForm = formOf(wholeComment({ text: "" }));

const bodyOf = (form: CommentForm) =>
  commentBodyOf({
    ...form,
    shorthand: form.shorthand.replace(/^;/, ""),
    favourite: form.favourite ? Number(form.favourite) : null,
    tags: form.tags
      .split(",")
      .map((t) => t.trim())
      .filter(Boolean),
    courseId: form.share === "course" ? form.courseId : null,
  });

const KIND_WORDS: Readonly<Partial<Record<MarkKind, string>>> = {
  note: "a note",
  insert: "an edit: words put in",
  delete: "an edit: words taken out",
  replace: "an edit: other words instead",
  stamp: "a stamp with this text",
};
const sayKind = (kind: MarkKind) =>
  KIND_WORDS[kind] ?? `the stamp ${STAMP_SIGNS[kind]?.sign ?? ""} with these words`;

/** A comment to be written or changed; where drafts say it as it was, the teacher is asked whether they follow. */
export function CommentDialog({
  first,
  folders,
  courses,
  onKept,
  onClose,
}: {
  first: CommentForm;
  folders: readonly string[];
  courses: readonly { id: string; name: string }[];
  onKept: (draftsChanged: number) => void;
  onClose: () => void;
}) {
  const [form, setForm] = useState(first);
  const [fields, setFields] = useState<Readonly<Record<string, string>>>({});
  const [problem, setProblem] = useState<string | null>(null);
  const [drafts, setDrafts] = useState(0);
  const [follow, setFollow] = useState(true);
  const [busy, setBusy] = useState(false);
  const set = (part: Partial<CommentForm>) => setForm((old) => ({ ...old, ...part }));
  useEffect(() => {
    if (first.id)
      void call(contract.commentDrafts, { params: { commentId: first.id } }).then(
        (found) => setDrafts(found.drafts),
        () => undefined,
      );
  }, [first.id]);

  async function save() {
    const body = bodyOf(form);
    setBusy(true);
    try {
      if (form.id)
        onKept(
          (
            await call(contract.changeComment, {
              params: { commentId: form.id },
              body: { ...body, drafts: drafts > 0 && follow && form.text !== first.text },
              revision: form.revision,
            })
          ).draftsChanged,
        );
      else {
        await call(contract.addComment, { body });
        onKept(0);
      }
    } catch (error) {
      if (error instanceof Problem) setFields(error.fields);
      setProblem(sayProblem(error));
      setBusy(false);
    }
  }
  const open = unfilled(form.text);
  return (
    <Dialog open onClose={onClose} title={form.id ? "Change the comment" : "New comment"} wide>
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        {problem && Object.keys(fields).length === 0 ? (
          <Notice ink="ember">{problem}</Notice>
        ) : null}
        <TextArea
          label="Comment"
          rows={3}
          autoFocus
          value={form.text}
          onChange={(event) => set({ text: event.target.value })}
          error={fields.text}
          hint={
            open.length > 0
              ? `Filled or asked for when it is used: ${open.join(" ")}`
              : "{name}, {title}, {due} and {score} fill themselves in; {this|that} is a choice, {…} a blank"
          }
        />
        <div className="grid gap-3 sm:grid-cols-4">
          <TextField
            label="Shorthand"
            value={form.shorthand}
            onChange={(event) => set({ shorthand: event.target.value })}
            error={fields.shorthand}
            hint="typed after ;"
          />
          <TextField
            label="Key (1 to 9)"
            inputMode="numeric"
            value={form.favourite}
            onChange={(event) =>
              set({ favourite: event.target.value.replace(/[^1-9]/g, "").slice(-1) })
            }
            error={fields.favourite}
            hint="empty: none"
          />
          <ChooseOrMake
            label="Folder"
            value={form.folder}
            choices={folders}
            none="in no folder"
            make="A new folder …"
            onChange={(folder) => set({ folder })}
            hint="a / makes one inside another"
          />
          <TextField
            label="Tags"
            value={form.tags}
            onChange={(event) => set({ tags: event.target.value })}
            hint="with commas between"
          />
        </div>
        <RadioLine
          label="Kind"
          value={form.nature}
          onChange={(nature) => set({ nature })}
          choices={[
            { value: "remark", words: "a remark" },
            { value: "request", words: "a request: asks the student to do something" },
            { value: "praise", words: "praise" },
          ]}
        />
        <div className="grid gap-3 sm:grid-cols-4">
          <SelectField
            label="Put on the work as"
            value={form.kind}
            onChange={(event) => set({ kind: event.target.value as MarkKind })}
          >
            {COMMENT_KINDS.map((kind) => (
              <option key={kind} value={kind}>
                {sayKind(kind)}
              </option>
            ))}
          </SelectField>
          {form.kind === "insert" || form.kind === "replace" ? (
            <TextField
              label="New words"
              value={form.replacement}
              onChange={(event) => set({ replacement: event.target.value })}
            />
          ) : null}
          <TextField
            label="Criterion"
            value={form.criterion}
            onChange={(event) => set({ criterion: event.target.value })}
            hint="its name in the rubric"
          />
          <TextField
            label="Points"
            inputMode="decimal"
            value={form.points}
            onChange={(event) =>
              set({ points: event.target.value.replace("−", "-").replace(",", ".") })
            }
            error={fields.points}
            hint="such as 1 or -0.5"
          />
        </div>
        <div>
          <p className="label">Voice</p>
          <Speak
            pieceId={null}
            place={`comment ${form.id ?? "new"}`}
            clipId={form.clipId}
            onClip={(clip) => set({ clipId: clip?.id ?? null })}
            words="Say it"
          />
        </div>
        <div className="grid gap-3 sm:grid-cols-2">
          <SelectField
            label="Who may use it"
            value={form.share}
            onChange={(event) =>
              set({
                share: event.target.value as Share,
                courseId:
                  event.target.value === "course"
                    ? (form.courseId ?? courses[0]?.id ?? null)
                    : null,
              })
            }
          >
            <option value="own">only I</option>
            {courses.length > 0 ? <option value="course">the teachers of a course</option> : null}
            <option value="school">the teachers of the school</option>
          </SelectField>
          {form.share === "course" ? (
            <SelectField
              label="Course"
              value={form.courseId ?? ""}
              onChange={(event) => set({ courseId: event.target.value })}
              error={fields.share}
            >
              {courses.map((c) => (
                <option key={c.id} value={c.id}>
                  {c.name}
                </option>
              ))}
            </SelectField>
          ) : null}
        </div>
        {drafts > 0 && form.text !== first.text ? (
          <CheckField
            label={`Change ${drafts === 1 ? "the draft that says" : `the ${drafts} drafts that say`} it too`}
            hint="What was handed back stays as it was said."
            checked={follow}
            onChange={(event) => setFollow(event.target.checked)}
          />
        ) : null}
        <div className="mt-2 flex justify-end gap-2">
          <Button onClick={onClose}>Leave it</Button>
          <Button ink="tide" type="submit" disabled={busy}>
            Keep
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

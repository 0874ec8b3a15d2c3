"use client";

import { yupResolver } from "@hookform/resolvers/yup";
import { useRouter } from "next/navigation";
import { useRef, useState } from "react";
import { useForm, useWatch, type Resolver } from "react-hook-form";
import { contract, handOutBody } from "@/core/api/contract";
import type { BodyOf } from "@/core/api/endpoint";
import { EMPTY_DOC, type RichDoc } from "@/core/text/richDoc";
import { call, Problem, sayProblem } from "../client";
import { Button } from "../kit/Button";
import { CheckField, TextField } from "../kit/Field";
import { Notice } from "../kit/Notice";
import { Editor, useWritingEditor } from "../piece/Editor";
import { RichText } from "../text/RichText";

type Values = BodyOf<typeof contract.handOut>;
type Props = { sectionId: string; section: string; students: number; suggested: { due: string; promised: string } };

/** Handing out, read top to bottom: the work, when, how it counts; at its side what a student will see. */
export function HandOutForm({ sectionId, section, students, suggested }: Props) {
  const router = useRouter();
  const [problem, setProblem] = useState<string | null>(null);
  const key = useRef<string>(undefined);
  const { register, handleSubmit, control, setValue, setError, formState } = useForm<Values>({
    resolver: yupResolver(handOutBody) as unknown as Resolver<Values>,
    defaultValues: { title: "", instructions: EMPTY_DOC, expects: "writing", points: "10", opens: null, due: suggested.due, closes: null, promised: suggested.promised, graceMinutes: 10, mayTakeBack: true },
  });
  const values = useWatch({ control }) as Values;
  const editor = useWritingEditor({ doc: EMPTY_DOC, label: "Instructions", onChange: (doc) => setValue("instructions", doc, { shouldDirty: true }) });
  const errors = formState.errors;
  const optional = { setValueAs: (value: string | null) => value || null };

  async function send(given: Values) {
    key.current ??= crypto.randomUUID();
    try {
      const { handOutId } = await call(contract.handOut, { params: { sectionId }, body: given, key: key.current });
      router.push(`/hand-outs/${handOutId}`);
    } catch (error) {
      key.current = undefined;
      if (error instanceof Problem) for (const [field, message] of Object.entries(error.fields)) setError(field as keyof Values, { message });
      setProblem(sayProblem(error));
    }
  }

  return (
    <form onSubmit={handleSubmit(send)} noValidate className="grid gap-10 lg:grid-cols-[minmax(0,44rem)_minmax(18rem,1fr)]">
      <div className="grid gap-8">
        {problem ? <Notice ink="ember">{problem}</Notice> : null}
        <fieldset className="grid gap-4">
          <legend className="font-serif text-xl">The work</legend>
          <TextField label="Title" autoFocus {...register("title")} error={errors.title?.message} className="font-serif text-lg!" />
          <div style={{ "--writing-height": "7rem" } as React.CSSProperties}>
            <p className="label">Instructions</p>
            <Editor editor={editor} />
          </div>
          <div className="flex flex-wrap gap-x-8 gap-y-2" role="radiogroup" aria-label="What students hand in">
            <label className="flex items-center gap-2">
              <input type="radio" value="writing" className="size-5 accent-tide" {...register("expects")} /> writing, done here
            </label>
            <label className="flex items-center gap-2">
              <input type="radio" value="nothing" className="size-5 accent-tide" {...register("expects")} /> nothing to hand in (paper, or in class)
            </label>
          </div>
        </fieldset>
        <fieldset className="grid gap-4">
          <legend className="font-serif text-xl">When</legend>
          <p className="text-sm text-soft">
            {section}, {students} students. Times are the school’s.
          </p>
          <div className="grid gap-4 sm:grid-cols-2">
            <TextField label="Opens" type="datetime-local" hint="Empty: now" {...register("opens", optional)} error={errors.opens?.message} />
            <TextField label="Due" type="datetime-local" {...register("due")} error={errors.due?.message} />
            <TextField label="Closes" type="datetime-local" hint="Empty: late work is always taken" {...register("closes", optional)} error={errors.closes?.message} />
            <TextField label="Promised back" type="datetime-local" hint="Your word to the students" {...register("promised", optional)} error={errors.promised?.message} />
          </div>
        </fieldset>
        <fieldset className="grid gap-4">
          <legend className="font-serif text-xl">How it counts</legend>
          <div className="grid gap-4 sm:grid-cols-2">
            <TextField label="Points" inputMode="decimal" hint="Empty: words only, no score" {...register("points")} error={errors.points?.message} />
            <TextField label="Grace (minutes)" inputMode="numeric" hint="After due, and still on time" {...register("graceMinutes", { setValueAs: (value: string | number) => (value === "" ? 0 : Number(value)) })} error={errors.graceMinutes?.message} />
          </div>
          <CheckField label="Students may take a hand-in back" hint="until it is due, and until you have begun to read it" {...register("mayTakeBack")} />
        </fieldset>
        <div className="flex gap-3 border-t border-line-strong pt-4">
          <Button ink="tide" type="submit" disabled={formState.isSubmitting}>
            {formState.isSubmitting ? "Handing out …" : `Hand out to ${section}`}
          </Button>
        </div>
      </div>
      <aside aria-label="As a student will see it" className="h-fit border border-line-strong bg-raised p-5 lg:sticky lg:top-4">
        <p className="label">As a student will see it</p>
        <h2 className="mt-2">{values.title || "(no title yet)"}</h2>
        <p className="text-sm text-soft">
          {section} · due {sayWall(values.due)}
          {values.points && values.expects === "writing" ? ` · ${values.points} points` : ""}
        </p>
        <div className="mt-3 text-base">
          <RichText doc={(values.instructions ?? EMPTY_DOC) as RichDoc} />
        </div>
        <p className="mt-4 border-t border-line pt-2 text-sm text-soft">{values.expects === "nothing" ? "Nothing to hand in: looked at on paper or in class." : values.mayTakeBack ? "Can be taken back until it is due." : "What is handed in stays handed in."}</p>
      </aside>
    </form>
  );
}

/** `2026-10-16T16:00` as `Fri 16 Oct, 16:00`; it is the school's wall clock, whatever this device's zone. */
function sayWall(wall: string | null | undefined): string {
  if (!wall) return "…";
  const date = new Date(`${wall}:00Z`);
  if (Number.isNaN(date.getTime())) return "…";
  return date.toLocaleString("en-GB", { weekday: "short", day: "numeric", month: "short", hour: "2-digit", minute: "2-digit", timeZone: "UTC" });
}

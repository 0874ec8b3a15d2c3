"use client";

import { useState } from "react";
import { HOW_DID_IT_GO, type Plan, type PlanVersion, type Work } from "@/core/handouts/plan";
import { asksForWriting, sayParts } from "@/core/handouts/parts";
import { EMPTY_DOC } from "@/core/text/richDoc";
import type { HandOutFormView } from "@/core/views/handOutViews";
import { Button } from "../../kit/Button";
import { Chip, SelectField } from "../../kit/Choices";
import { CheckField, TextField } from "../../kit/Field";
import { Editor, useWritingEditor } from "../../piece/writing/Editor";
import { Speak } from "../../voice/Speak";
import { EmojiField } from "./EmojiField";
import { Materials } from "./Materials";
import { Parts } from "./Parts";

type Props = {
  plan: Plan;
  form: HandOutFormView;
  setWork: (work: Partial<Work>) => void;
  errors: Record<string, string>;
  toggleSection: ((id: string) => void) | null;
  /** What was handed out already: its kind of answer and these versions stay. */ given: {
    versions: string[];
  } | null;
};

/** The work as it is written: title, to whom, instructions, materials, and what is asked of the student. */
export function WorkPart({ plan, form, setWork, errors, toggleSection, given }: Props) {
  const { work } = plan;
  const editor = useWritingEditor({
    doc: work.instructions,
    label: "Instructions",
    pictures: true,
    onChange: (instructions) => setWork({ instructions }),
  });
  return (
    <section aria-labelledby="the-work" className="grid gap-5">
      <h2 id="the-work" className="border-b border-line pb-1">
        The work
      </h2>
      <div className="flex flex-wrap items-start gap-x-3 gap-y-2">
        <div className="min-w-72 flex-1">
          <TextField
            label="Title"
            autoFocus
            value={work.title}
            onChange={(event) => setWork({ title: event.target.value })}
            error={errors["work.title"]}
            className="font-serif text-lg!"
          />
        </div>
        <EmojiField value={work.emoji} onChange={(emoji) => setWork({ emoji })} />
        {given ? null : (
          <div className="pt-7">
            <CheckField
              label="Number it"
              checked={work.numbered}
              onChange={(event) => setWork({ numbered: event.target.checked })}
              title="The next number of the course stands before the title"
            />
          </div>
        )}
      </div>
      {toggleSection ? (
        <div role="group" aria-label="To" className="flex flex-wrap items-center gap-2">
          <span className="label pr-1">to</span>
          {form.sections.map((section) => (
            <Chip
              key={section.id}
              chosen={plan.rows.some((r) => r.sectionId === section.id)}
              onToggle={() => toggleSection(section.id)}
            >
              {section.name}{" "}
              <span className="text-sm font-normal text-soft">{section.students.length}</span>
            </Chip>
          ))}
          {errors.rows ? (
            <p role="alert" className="text-sm text-ember">
              ▲ {errors.rows}
            </p>
          ) : null}
        </div>
      ) : null}
      <div style={{ "--writing-height": "7rem" } as React.CSSProperties}>
        <p className="label">Instructions</p>
        <Editor editor={editor} pictures />
        <div className="mt-2">
          <Speak
            pieceId={null}
            place={`task ${given ? form.now : "new"}`}
            clipId={work.clipId ?? null}
            onClip={(clip) => setWork({ clipId: clip?.id ?? null })}
            words="Say it too"
          />
        </div>
        {errors["work.instructions"] ? (
          <p role="alert" className="text-sm text-ember">
            ▲ {errors["work.instructions"]}
          </p>
        ) : null}
      </div>
      <Materials work={work} setWork={setWork} errors={errors} />
      {given ? (
        <p className="text-sm text-soft">
          Students hand in: {sayParts(work.parts)}. That stays as it was handed out.
        </p>
      ) : (
        <Parts
          parts={work.parts}
          sets={form.sets}
          onChange={(parts) => setWork({ parts })}
          errors={errors}
        />
      )}
      <details
        open={Boolean(
          work.selfAssessment ||
          work.wordsLeast ||
          work.wordsMost ||
          work.openBefore ||
          !work.mayTakeBack ||
          work.versions.length > 0,
        )}
      >
        <summary className="label cursor-pointer">
          Length, a question at hand-in, taking back, versions
        </summary>
        <div className="mt-3 grid gap-5 border-l border-line pl-5">
          {asksForWriting(work.parts) ? (
            <div className="flex flex-wrap gap-4">
              <div className="w-40">
                <TextField
                  label="At least (words)"
                  inputMode="numeric"
                  value={work.wordsLeast}
                  onChange={(event) =>
                    setWork({ wordsLeast: event.target.value.replace(/\D/g, "") })
                  }
                />
              </div>
              <div className="w-40">
                <TextField
                  label="At most (words)"
                  inputMode="numeric"
                  value={work.wordsMost}
                  onChange={(event) =>
                    setWork({ wordsMost: event.target.value.replace(/\D/g, "") })
                  }
                  error={errors["work.wordsMost"]}
                />
              </div>
              <p className="self-center text-sm text-soft">A goal the student sees, not a gate.</p>
            </div>
          ) : null}
          <CheckField
            label="Students may take a hand-in back"
            hint="until it is due, and until you have begun to read it"
            checked={work.mayTakeBack}
            onChange={(event) => setWork({ mayTakeBack: event.target.checked })}
          />
          <CheckField
            label="I may read the work before it is handed in"
            hint="Students are told."
            checked={work.openBefore}
            onChange={(event) => setWork({ openBefore: event.target.checked })}
          />
          <SelfAsked work={work} setWork={setWork} error={errors["work.selfAssessment"]} />
          <Versions work={work} setWork={setWork} errors={errors} fixed={given?.versions ?? []} />
        </div>
      </details>
    </section>
  );
}

function SelfAsked({
  work,
  setWork,
  error,
}: {
  work: Work;
  setWork: Props["setWork"];
  error: string | undefined;
}) {
  const asked = work.selfAssessment;
  return (
    <div className="grid gap-2">
      <CheckField
        label="Ask the student how it went, at hand-in"
        checked={asked !== null}
        onChange={(event) =>
          setWork({ selfAssessment: event.target.checked ? HOW_DID_IT_GO : null })
        }
      />
      {asked ? (
        <div className="grid gap-3 sm:grid-cols-[1fr_12rem]">
          <TextField
            label="Question"
            value={asked.question}
            onChange={(event) =>
              setWork({ selfAssessment: { ...asked, question: event.target.value } })
            }
            error={error}
          />
          <SelectField
            label="Answered by"
            value={asked.answers}
            onChange={(event) =>
              setWork({
                selfAssessment: { ...asked, answers: event.target.value as "words" | "scale" },
              })
            }
          >
            <option value="words">words to choose from</option>
            <option value="scale">a scale from 1 to 5</option>
          </SelectField>
          {asked.answers === "words" ? (
            <div className="sm:col-span-2">
              <TextField
                label="Answers, with commas between"
                value={asked.choices.join(", ")}
                onChange={(event) =>
                  setWork({
                    selfAssessment: {
                      ...asked,
                      choices: event.target.value
                        .split(",")
                        .map((c) => c.trimStart())
                        .slice(0, 8),
                    },
                  })
                }
                hint="A sentence of their own can always be added."
              />
            </div>
          ) : null}
        </div>
      ) : null}
    </div>
  );
}

/** Other wordings for some students; who gets which is chosen under "who and when". */
function Versions({
  work,
  setWork,
  errors,
  fixed,
}: {
  work: Work;
  setWork: Props["setWork"];
  errors: Record<string, string>;
  fixed: readonly string[];
}) {
  const change = (id: string, part: Partial<PlanVersion>) =>
    setWork({ versions: work.versions.map((v) => (v.id === id ? { ...v, ...part } : v)) });
  return (
    <div className="grid gap-4">
      {work.versions.map((version, n) => (
        <VersionEditor
          key={version.id}
          version={version}
          error={errors[`work.versions[${n}].name`]}
          onChange={(part) => change(version.id, part)}
          onDrop={
            fixed.includes(version.id)
              ? null
              : () => setWork({ versions: work.versions.filter((v) => v.id !== version.id) })
          }
        />
      ))}
      <div>
        <Button
          small
          onClick={() =>
            setWork({
              versions: [
                ...work.versions,
                {
                  id: crypto.randomUUID(),
                  name: `Version ${String.fromCharCode(66 + work.versions.length)}`,
                  instructions: work.instructions ?? EMPTY_DOC,
                },
              ],
            })
          }
        >
          Another version for some students
        </Button>
        <p className="mt-1 text-sm text-soft">
          They share one column in the Ledger. Students do not see that there are versions.
        </p>
      </div>
    </div>
  );
}

function VersionEditor({
  version,
  error,
  onChange,
  onDrop,
}: {
  version: PlanVersion;
  error: string | undefined;
  onChange: (part: Partial<PlanVersion>) => void;
  onDrop: (() => void) | null;
}) {
  const [first] = useState(version.instructions);
  const editor = useWritingEditor({
    doc: first,
    label: `Instructions of ${version.name}`,
    pictures: true,
    onChange: (instructions) => onChange({ instructions }),
  });
  return (
    <div
      className="border border-line p-4"
      style={{ "--writing-height": "5rem" } as React.CSSProperties}
    >
      <div className="mb-3 flex items-end gap-3">
        <div className="w-64">
          <TextField
            label="Version, for you alone"
            value={version.name}
            onChange={(event) => onChange({ name: event.target.value })}
            error={error}
          />
        </div>
        {onDrop ? (
          <Button small onClick={onDrop}>
            Take this version out
          </Button>
        ) : (
          <span className="pb-2 text-sm text-soft">handed out already</span>
        )}
      </div>
      <Editor editor={editor} pictures />
    </div>
  );
}

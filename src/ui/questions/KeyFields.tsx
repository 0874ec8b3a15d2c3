"use client";

import type { Choice, Question } from "@/core/questions/question";
import { Button } from "../kit/Button";
import { CheckField, TextField } from "../kit/Field";

const choice = (): Choice => ({ id: crypto.randomUUID(), text: "" });

/** The key of one question, in the form its kind asks for. */
export function KeyFields({
  question: q,
  onChange,
}: {
  question: Question;
  onChange: (next: Question) => void;
}) {
  switch (q.kind) {
    case "one choice":
      return (
        <Choices
          choices={q.choices}
          onChange={(choices) => onChange({ ...q, choices })}
          mark={(c) => (
            <input
              type="radio"
              name={q.id}
              className="size-5 accent-tide"
              aria-label={`“${c.text}” is right`}
              checked={q.right === c.id}
              onChange={() => onChange({ ...q, right: c.id })}
            />
          )}
          hint="Choose the one that is right."
        />
      );
    case "several choices":
      return (
        <Choices
          choices={q.choices}
          onChange={(choices) =>
            onChange({
              ...q,
              choices,
              right: q.right.filter((id) => choices.some((c) => c.id === id)),
            })
          }
          mark={(c) => (
            <input
              type="checkbox"
              className="size-5 accent-tide"
              aria-label={`“${c.text}” is right`}
              checked={q.right.includes(c.id)}
              onChange={(event) =>
                onChange({
                  ...q,
                  right: event.target.checked
                    ? [...q.right, c.id]
                    : q.right.filter((id) => id !== c.id),
                })
              }
            />
          )}
          hint="Tick those that are right."
        />
      );
    case "short text":
      return (
        <div className="grid gap-2">
          {q.accepted.map((text, n) => (
            <div key={n} className="flex items-end gap-2">
              <div className="w-80">
                <TextField
                  label={n === 0 ? "Right answer" : "Also right"}
                  value={text}
                  onChange={(event) =>
                    onChange({
                      ...q,
                      accepted: q.accepted.map((a, k) => (k === n ? event.target.value : a)),
                    })
                  }
                />
              </div>
              {n > 0 ? (
                <Button
                  small
                  onClick={() => onChange({ ...q, accepted: q.accepted.filter((_, k) => k !== n) })}
                >
                  Take out
                </Button>
              ) : null}
            </div>
          ))}
          <div>
            <Button small onClick={() => onChange({ ...q, accepted: [...q.accepted, ""] })}>
              + also right
            </Button>
          </div>
          <div className="flex flex-wrap gap-x-6 gap-y-1">
            <CheckField
              label="Capital letters count"
              checked={q.exactCase}
              onChange={(event) => onChange({ ...q, exactCase: event.target.checked })}
            />
            <CheckField
              label="Accents count"
              checked={q.exactAccents}
              onChange={(event) => onChange({ ...q, exactAccents: event.target.checked })}
            />
            <CheckField
              label="Spaces count"
              checked={q.exactSpaces}
              onChange={(event) => onChange({ ...q, exactSpaces: event.target.checked })}
            />
          </div>
        </div>
      );
    case "number":
      return (
        <div className="flex flex-wrap gap-3">
          <div className="w-40">
            <TextField
              label="Right number"
              value={q.value}
              onChange={(event) => onChange({ ...q, value: event.target.value })}
            />
          </div>
          <div className="w-40">
            <TextField
              label="Unit"
              value={q.unit}
              onChange={(event) => onChange({ ...q, unit: event.target.value })}
              hint="empty: none; 1.2 kg is 1200 g"
            />
          </div>
          <div className="w-48">
            <TextField
              label="May be off by"
              value={q.tolerance}
              onChange={(event) => onChange({ ...q, tolerance: event.target.value })}
              hint="0.05 or 5%; empty: exact"
            />
          </div>
        </div>
      );
    case "matching":
      return (
        <div className="grid gap-2">
          {q.left.map((l, n) => {
            const r = q.right.find((x) => x.id === q.pairs[l.id]);
            return (
              <div key={l.id} className="grid items-end gap-2 sm:grid-cols-[1fr_1fr_auto]">
                <TextField
                  label={n === 0 ? "Left" : `Left ${n + 1}`}
                  hideLabel={n > 0}
                  value={l.text}
                  onChange={(event) =>
                    onChange({
                      ...q,
                      left: q.left.map((x) =>
                        x.id === l.id ? { ...x, text: event.target.value } : x,
                      ),
                    })
                  }
                />
                <TextField
                  label={n === 0 ? "Its partner" : `Partner ${n + 1}`}
                  hideLabel={n > 0}
                  value={r?.text ?? ""}
                  onChange={(event) =>
                    onChange({
                      ...q,
                      right: q.right.map((x) =>
                        x.id === r?.id ? { ...x, text: event.target.value } : x,
                      ),
                    })
                  }
                />
                <Button
                  small
                  aria-label={`Take pair ${n + 1} out`}
                  onClick={() =>
                    onChange({
                      ...q,
                      left: q.left.filter((x) => x.id !== l.id),
                      right: q.right.filter((x) => x.id !== r?.id),
                      pairs: Object.fromEntries(
                        Object.entries(q.pairs).filter(([id]) => id !== l.id),
                      ),
                    })
                  }
                >
                  Take out
                </Button>
              </div>
            );
          })}
          <div>
            <Button
              small
              onClick={() => {
                const [l, r] = [choice(), choice()];
                onChange({
                  ...q,
                  left: [...q.left, l],
                  right: [...q.right, r],
                  pairs: { ...q.pairs, [l.id]: r.id },
                });
              }}
            >
              + pair
            </Button>
          </div>
        </div>
      );
    case "ordering":
      return (
        <Choices
          choices={q.items}
          onChange={(items) => onChange({ ...q, items })}
          mark={(_, n) => <span className="w-6 pb-2 text-right text-soft">{n + 1}.</span>}
          hint="In the right order; students see another."
        />
      );
    case "free text":
      return (
        <div className="w-48">
          <TextField
            label="Lines to write in"
            inputMode="numeric"
            value={q.lines}
            onChange={(event) =>
              onChange({
                ...q,
                lines: Math.min(
                  40,
                  Math.max(1, Number(event.target.value.replace(/\D/g, "")) || 1),
                ),
              })
            }
            hint="You read it yourself."
          />
        </div>
      );
  }
}

function Choices({
  choices,
  onChange,
  mark,
  hint,
}: {
  choices: Choice[];
  onChange: (choices: Choice[]) => void;
  mark: (choice: Choice, n: number) => React.ReactNode;
  hint: string;
}) {
  return (
    <div className="grid gap-2">
      <p className="text-sm text-soft">{hint}</p>
      {choices.map((c, n) => (
        <div key={c.id} className="flex items-center gap-3">
          {mark(c, n)}
          <div className="max-w-lg flex-1">
            <TextField
              label={`Choice ${n + 1}`}
              hideLabel
              value={c.text}
              onChange={(event) =>
                onChange(
                  choices.map((x) => (x.id === c.id ? { ...x, text: event.target.value } : x)),
                )
              }
            />
          </div>
          <Button
            small
            disabled={choices.length <= 2}
            aria-label={`Take choice ${n + 1} out`}
            onClick={() => onChange(choices.filter((x) => x.id !== c.id))}
          >
            Take out
          </Button>
        </div>
      ))}
      <div>
        <Button small onClick={() => onChange([...choices, choice()])}>
          + choice
        </Button>
      </div>
    </div>
  );
}

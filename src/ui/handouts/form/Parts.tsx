"use client";

import Link from "next/link";
import {
  aPart,
  FILE_TYPES,
  partRule,
  sayFileType,
  SHOW_TIMES,
  stillToAsk,
  WRITING,
  type Part,
  type PartKind,
} from "@/core/handouts/parts";
import type { HandOutFormView } from "@/core/views/handOutViews";
import { Button } from "../../kit/Button";
import { Chip, SelectField } from "../../kit/Choices";
import { CheckField, TextField } from "../../kit/Field";

const SHOWN: Record<(typeof SHOW_TIMES)[number], string> = {
  "at once": "at once, answer by answer",
  "at hand-in": "when they hand in",
  "handed back": "when it is handed back",
};

type Props = {
  parts: Part[];
  sets: HandOutFormView["sets"];
  onChange: (parts: Part[]) => void;
  errors: Record<string, string>;
};

/** What students hand in: one thing or several, in order; none: nothing, looked at on paper or in class. */
export function Parts({ parts, sets, onChange, errors }: Props) {
  const change = (id: string, part: Partial<Part>) =>
    onChange(parts.map((p) => (p.id === id ? { ...p, ...part } : p)));
  const add = (kind: PartKind) =>
    onChange([
      ...parts,
      kind === "writing"
        ? WRITING
        : aPart(crypto.randomUUID(), kind, {
            setId: partRule(kind).sets === "questions" ? (sets[0]?.id ?? null) : null,
          }),
    ]);
  return (
    <fieldset className="min-w-0">
      <legend className="label">What students hand in</legend>
      {parts.length === 0 ? (
        <p className="mb-2 text-soft">
          Nothing to hand in here: it is looked at on paper or in class.
        </p>
      ) : null}
      <ol className="grid gap-2">
        {parts.map((part, n) => (
          <li
            key={part.id}
            className="border border-line p-3"
            aria-label={partRule(part.kind).name}
          >
            <div className="flex flex-wrap items-end gap-3">
              <span className="min-w-32 pb-2 font-serif text-lg">{partRule(part.kind).name}</span>
              <div className="min-w-48 flex-1">
                <TextField
                  label="In your words, if you like"
                  placeholder={partRule(part.kind).example}
                  maxLength={120}
                  value={part.label}
                  onChange={(event) => change(part.id, { label: event.target.value })}
                  error={errors[`work.parts[${n}]`]}
                />
              </div>
              <span className="flex gap-1 pb-1">
                <Button
                  small
                  disabled={n === 0}
                  aria-label={`${partRule(part.kind).name} earlier`}
                  onClick={() => onChange(swapped(parts, n, n - 1))}
                >
                  ↑
                </Button>
                <Button
                  small
                  disabled={n === parts.length - 1}
                  aria-label={`${partRule(part.kind).name} later`}
                  onClick={() => onChange(swapped(parts, n, n + 1))}
                >
                  ↓
                </Button>
                <Button
                  small
                  aria-label={`Leave out ${partRule(part.kind).name}`}
                  onClick={() => onChange(parts.filter((p) => p.id !== part.id))}
                >
                  Leave out
                </Button>
              </span>
            </div>
            <PartChoices part={part} sets={sets} onChange={(own) => change(part.id, own)} />
          </li>
        ))}
      </ol>
      <div role="group" aria-label="Ask for" className="mt-2 flex flex-wrap gap-2">
        {stillToAsk(parts).map((kind) => (
          <Button key={kind} small title={partRule(kind).hint} onClick={() => add(kind)}>
            + {partRule(kind).name}
          </Button>
        ))}
      </div>
    </fieldset>
  );
}

function swapped(parts: readonly Part[], a: number, b: number): Part[] {
  const next = [...parts];
  [next[a], next[b]] = [parts[b]!, parts[a]!];
  return next;
}

function PartChoices({
  part,
  sets,
  onChange,
}: {
  part: Part;
  sets: Props["sets"];
  onChange: (part: Partial<Part>) => void;
}) {
  const { sets: settable } = partRule(part.kind);
  if (settable === "kinds of file") {
    return (
      <div
        role="group"
        aria-label="Kinds of file"
        className="mt-3 flex flex-wrap items-center gap-2"
      >
        {FILE_TYPES.map((type) => (
          <Chip
            key={type}
            chosen={part.types.includes(type)}
            onToggle={() =>
              onChange({
                types: part.types.includes(type)
                  ? part.types.filter((t) => t !== type)
                  : [...part.types, type],
              })
            }
          >
            {sayFileType(type)}
          </Chip>
        ))}
        <span className="text-sm text-soft">
          {part.types.length === 0 ? "None chosen: any kind of file but programs." : ""}
        </span>
      </div>
    );
  }
  if (settable === "minutes") {
    return (
      <div className="mt-3 w-56">
        <TextField
          label="At most (minutes)"
          inputMode="numeric"
          value={part.minutes ?? ""}
          hint="empty: as the school has it"
          onChange={(event) =>
            onChange({
              minutes: Math.min(60, Number(event.target.value.replace(/\D/g, ""))) || null,
            })
          }
        />
      </div>
    );
  }
  if (settable !== "questions") return null;
  return (
    <div className="mt-3 grid gap-3 sm:grid-cols-3">
      <SelectField
        label="Set of questions"
        value={part.setId ?? ""}
        onChange={(event) => onChange({ setId: event.target.value || null })}
      >
        <option value="">(choose a set)</option>
        {sets.map((set) => (
          <option key={set.id} value={set.id}>
            {set.name} ({set.questions})
          </option>
        ))}
      </SelectField>
      <SelectField
        label="Students see right and wrong"
        value={part.show}
        onChange={(event) =>
          onChange({
            show: event.target.value as Part["show"],
            tries: event.target.value === "at once" ? (part.tries ?? 2) : null,
          })
        }
      >
        {SHOW_TIMES.map((show) => (
          <option key={show} value={show}>
            {SHOWN[show]}
          </option>
        ))}
      </SelectField>
      {part.show === "at once" ? (
        <TextField
          label="Tries for each"
          inputMode="numeric"
          value={part.tries ?? ""}
          hint="empty: as many as they like"
          onChange={(event) =>
            onChange({ tries: Math.min(20, Number(event.target.value.replace(/\D/g, ""))) || null })
          }
        />
      ) : null}
      <CheckField
        label="Show the key beside their answers once it is handed back for good"
        checked={part.showKey ?? false}
        onChange={(event) => onChange({ showKey: event.target.checked })}
      />
      {sets.length === 0 ? (
        <p className="text-sm text-soft sm:col-span-3">
          There is no set yet. <Link href="/shelf/questions">Write one on the Shelf</Link>; this
          page keeps itself.
        </p>
      ) : null}
    </div>
  );
}

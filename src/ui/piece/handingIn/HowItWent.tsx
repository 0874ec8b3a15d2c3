import { SCALE, type SelfAssessment } from "@/core/handouts/plan";
import { WritingField } from "../../comments/WritingField";

type Said = { choice: string | null; words: string };

/** Asked at hand-in: a choice and a sentence, both as the student likes. */
export function HowItWent({
  asked,
  said,
  onSay,
}: {
  asked: SelfAssessment;
  said: Said;
  onSay: (said: Said) => void;
}) {
  const choices = asked.answers === "scale" ? SCALE : asked.choices.filter((c) => c.trim());
  return (
    <fieldset className="mt-4 border-t border-line pt-3">
      <legend className="font-serif text-lg">{asked.question}</legend>
      <div className="flex flex-wrap gap-x-5">
        {choices.map((choice) => (
          <label key={choice} className="flex min-h-9 items-center gap-2 max-sm:min-h-11">
            <input
              type="radio"
              name="how-it-went"
              className="size-5 accent-tide"
              checked={said.choice === choice}
              onChange={() => onSay({ ...said, choice })}
            />
            {choice}
          </label>
        ))}
      </div>
      {asked.answers === "scale" ? (
        <p className="text-sm text-soft">1: badly · 5: very well</p>
      ) : null}
      <WritingField
        label="A sentence, if you like"
        rows={2}
        maxLength={600}
        value={said.words}
        onChange={(words) => onSay({ ...said, words })}
      />
    </fieldset>
  );
}

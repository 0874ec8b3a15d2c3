import { isWall } from "@/core/handouts/checkDates";
import { sayParts } from "@/core/handouts/parts";
import { sayTitle, type Plan } from "@/core/handouts/plan";
import { isScored } from "@/core/scores/scales";
import type { RichDoc } from "@/core/text/richDoc";
import type { HandOutFormView } from "@/core/views/handOutViews";
import { sayWall } from "../../time";
import { RichText } from "../../text/RichText";
import { VoiceNote } from "../../voice/VoiceNote";

/** At the side: the task as a student of the first section will see it. */
export function StudentsView({ plan, form }: { plan: Plan; form: HandOutFormView }) {
  const { work, counting } = plan;
  const row = plan.rows[0];
  const section = form.sections.find((s) => s.id === row?.sectionId);
  const shared = work.openBefore || work.materials.some((m) => m.use === "copy");
  const goal = [
    work.wordsLeast ? `at least ${work.wordsLeast}` : "",
    work.wordsMost ? `at most ${work.wordsMost}` : "",
  ]
    .filter(Boolean)
    .join(", ");
  return (
    <aside
      aria-label="As a student will see it"
      className="h-fit min-w-0 border border-line-strong bg-raised p-5 xl:sticky xl:top-4"
    >
      <p className="label">As a student will see it</p>
      <h2 className="mt-2 break-words">
        {sayTitle({
          title: work.title || "(no title yet)",
          number: null,
          emoji: work.emoji || null,
        })}
      </h2>
      <p className="text-sm text-soft">
        {section?.name ?? "(no section yet)"}
        {row && isWall(row.due) ? ` · due ${sayWall(row.due)}` : ""}
        {isScored(counting.kind) && counting.points ? ` · ${counting.points} points` : ""}
      </p>
      {row?.opens && row.opens > form.now ? (
        <p className="mt-1 text-sm text-ember">Not to be seen before {sayWall(row.opens)}</p>
      ) : null}
      <div className="mt-3 text-base">
        <VoiceNote clipId={work.clipId} />
        <RichText doc={work.instructions as RichDoc} />
      </div>
      {work.materials.filter((m) => !(m.kind === "text" && m.use === "copy")).length > 0 ? (
        <ul className="mt-3 border-t border-line pt-2 text-sm">
          {work.materials
            .filter((m) => !(m.kind === "text" && m.use === "copy"))
            .map((m) => (
              <li key={m.id}>
                {m.title || m.kind}{" "}
                <span className="text-soft">({m.use === "copy" ? "your own copy" : m.kind})</span>
              </li>
            ))}
        </ul>
      ) : null}
      <ul className="mt-4 border-t border-line pt-2 text-sm text-soft">
        <li>{sayTakingBack(work)}</li>
        {work.parts.length > 0 ? <li>To hand in: {sayParts(work.parts)}.</li> : null}
        {goal ? <li>Words: {goal}.</li> : null}
        {shared ? <li>The teacher can read along before it is handed in.</li> : null}
        {work.selfAssessment ? <li>At hand-in: “{work.selfAssessment.question}”</li> : null}
        {row?.promised && isWall(row.promised) ? (
          <li>Promised back {sayWall(row.promised)}.</li>
        ) : null}
      </ul>
    </aside>
  );
}

function sayTakingBack({ parts, mayTakeBack }: Plan["work"]): string {
  if (parts.length === 0) return "Nothing to hand in: looked at on paper or in class.";
  return mayTakeBack ? "Can be taken back until it is due." : "What is handed in stays handed in.";
}

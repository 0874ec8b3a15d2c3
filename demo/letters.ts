import type { Call, Person } from "../src/server/call";
import { takeMailAnswer } from "../src/server/letters/answer";
import { writeLetter } from "../src/server/letters/write";

/** Letters to guardians and students of Gannet, one of them answered by mail; and the school's quiet hours. */
export async function writeLetters(call: Omit<Call, "who"> & { who: Person }): Promise<void> {
  const { tx, now, newId } = call;
  const section = await readSection(call);
  const guarded = section.filter((s) => s.guarded).map((s) => s.studentId);
  const [first] = section;
  if (!first) return;
  const at = (days: number) => ({ ...call, now: new Date(now.getTime() - days * 86_400_000) });
  if (guarded.length > 0) {
    await writeLetter(at(3), first.sectionId, {
      ...{ handOutId: null, studentIds: guarded, to: "guardians" },
      subject: "Rain gauges on Thursday",
      body: "On Thursday we read the gauges on the pier. Please send {name} with a coat and closed shoes.",
    });
    const [copy] = await tx<{ code: string }[]>`select code from letter_to order by id limit 1`;
    const text =
      "Thank you. We only have sandals until Friday, is that all right?\n\nAlmanac wrote:\n> On Thursday we read";
    await takeMailAnswer(
      tx,
      { to: `answers+${copy!.code}@tern-island.example`, text },
      { now: at(2).now, newId },
    );
  }
  await writeLetter(at(1), first.sectionId, {
    ...{ handOutId: null, studentIds: section.slice(0, 3).map((s) => s.studentId) },
    ...{ to: "students", subject: "Your poster group" },
    body: "{name}, you three can use the long table on Monday. Bring what you have drawn.",
  });
  // Last, so that what is written here went out by day.
  await tx`update school set quiet_from = '20:00', quiet_until = '06:30'`;
}

function readSection({ tx }: Pick<Call, "tx">) {
  return tx<{ sectionId: string; studentId: string; guarded: boolean }[]>`
    select section.id as section_id, person.id as student_id, exists (select from guardianship where student_id = person.id) as guarded
    from section
    join enrolment on enrolment.section_id = section.id and enrolment.left_on is null
    join person on person.id = enrolment.student_id
    where section.name = 'Gannet'
    order by person.sort_name, person.id`;
}

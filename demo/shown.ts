import { schoolDayFrom, type SchoolCalendar } from "../src/core/time/term";
import { addDays, dayOf } from "../src/core/time/zone";
import { plainText } from "../src/core/text/plainText";
import type { RichDoc } from "../src/core/text/richDoc";
import type { Answers } from "../src/core/questions/question";
import type { Call, Person } from "../src/server/call";
import { openDisplay } from "../src/server/looks/displays";
import { endLook } from "../src/server/looks/endLook";
import { reportShownMark, showShownMark } from "../src/server/looks/moderate";
import type { GivenShownMark } from "../src/server/looks/say";
import { setLookRule } from "../src/server/looks/rules";
import { sayInLook, sayOnDisplay } from "../src/server/looks/shownWork";
import { askForLook } from "../src/server/pieces/askForLook";
import { openPiece, saveWork } from "../src/server/pieces/moves";
import { seeded } from "./random";
import { toDoc } from "./texts/blocks";
import { moonPlan } from "./texts/science";

/** What is shown to others: the cloud sketches of Gannet, and looks exchanged in pairs at the plan of a poster. */
type Teacher = Omit<Call, "who"> & { who: Person };

const SAID = [
  "I had the same grey over the mast at nine. Did yours move?",
  "The line of the low cloud is really good. I would not have seen that it leans.",
  "What does the arrow mean, wind or where it went?",
  "You wrote stratus, but with holes I think it is stratocumulus.",
  "Next time put the hours beside each drawing, then one can compare.",
];
const UNKIND = "lol what is that supposed to be";
const WAITS = "Did you draw this from the bus? The roofs are so low.";

const QUESTIONS = [
  "Is it clear who does what?",
  "Is the order of the phases right as I have it?",
  "Do we need the sizes in the plan too?",
];
const ANSWERS = [
  "Yes, but say who draws the full moon, or two of you will.",
  "I think the waning ones are the other way round.",
];

export async function showWork(call: Teacher, calendar: SchoolCalendar): Promise<void> {
  const { who, now } = call;
  const day = (days: number) => schoolDayFrom(addDays(dayOf(now, who.zone), days), calendar);
  await showClouds(call, `${day(6)}T15:30`);
  await exchangeLooks(call, `${day(4)}T15:30`);
}

const handOutOf = async ({ tx }: Teacher, title: string): Promise<string | undefined> => {
  const [row] = await tx<{ id: string }[]>`
    select hand_out.id
    from hand_out
    join assignment on assignment.id = hand_out.assignment_id
    join section on section.id = hand_out.section_id
    where assignment.title = ${title} and section.name = 'Gannet'`;
  return row?.id;
};

const asStudent = (call: Teacher, person: Person): Call => ({ ...call, who: person });

async function showClouds(call: Teacher, closes: string): Promise<void> {
  const handOutId = await handOutOf(call, "Clouds, three times");
  if (!handOutId) return;
  await openDisplay(call, handOutId, {
    ...{ shows: "all", pieceIds: [], named: true, readFirst: true, onlyHandedIn: true, closes },
  });
  const pieces = await readStudents(
    call,
    handOutId,
    "exists (select from version where version.piece_id = piece.id) and piece.state not in ('not_opened', 'started')",
  );
  const say = async (by: number, of: number, body: string) => {
    const mark = note(call, body);
    await sayOnDisplay(asStudent(call, pieces[by]!.person), pieces[of]!.pieceId, mark);
    return mark.id;
  };
  if (pieces.length < 9) return;
  for (const [n, body] of SAID.entries())
    await showShownMark(call, await say(n + 3, n % 3, body), { shown: true });
  const unkind = await say(8, 1, UNKIND);
  await showShownMark(call, unkind, { shown: true });
  await reportShownMark(asStudent(call, pieces[1]!.person), unkind, { why: "This is mean." });
  await say(6, 0, WAITS);
}

const note = ({ newId }: Teacher, body: string): GivenShownMark => ({
  ...{ id: newId(), kind: "note", start: 0, end: 0, body, replacement: "", clipId: null },
  place: { on: "whole", itemId: null },
});

type DemoPiece = { pieceId: string; person: Person };

async function readStudents(
  { tx, who }: Teacher,
  handOutId: string,
  where: string,
): Promise<DemoPiece[]> {
  const rows = await tx<(Person & { pieceId: string })[]>`
    select person.id, person.kind, person.name, person.called, person.school_id, piece.id as piece_id
    from piece
    join person on person.id = piece.student_id
    where piece.hand_out_id = ${handOutId} and piece.removed_at is null and piece.left_at is null and ${tx.unsafe(where)}
    order by person.sort_name, person.id`;
  return rows.map(({ pieceId, ...person }) => ({ pieceId, person: { ...person, zone: who.zone } }));
}

async function exchangeLooks(call: Teacher, ends: string): Promise<void> {
  const handOutId = await handOutOf(call, "Moon phases: plan of our poster");
  if (!handOutId) return;
  await setLookRule(call, handOutId, { readers: "pairs", named: true, readFirst: false, ends });
  const begun = await readBegun(call, handOutId);
  for (const [n, question] of QUESTIONS.entries()) {
    const writer = begun[n];
    if (writer) await exchange(call, writer, { question, answer: ANSWERS[n] });
  }
}

/** Those who have begun; on a day on which too few would have by this hour, the first of the others begin now. */
async function readBegun(call: Teacher, handOutId: string): Promise<DemoPiece[]> {
  const read = () =>
    readStudents(
      call,
      handOutId,
      "piece.state = 'started' and exists (select from working_copy where piece_id = piece.id and length(doc::text) > 120)",
    );
  const begun = await read();
  const missing = QUESTIONS.length - begun.length;
  if (missing <= 0) return begun;
  const others = await readStudents(call, handOutId, "piece.state = 'not_opened'");
  for (const { pieceId, person } of others.slice(0, missing)) {
    const own = asStudent(call, person);
    await openPiece(own, pieceId);
    await saveWork(own, pieceId, { doc: toDoc(moonPlan(seeded(`begins ${pieceId}`))) }, 0);
  }
  return read();
}

/** One asks; the one who was drawn answers, offers an edit and is through, or has not read it yet. */
async function exchange(
  call: Teacher,
  { pieceId, person }: DemoPiece,
  { question, answer }: { question: string; answer: string | undefined },
): Promise<void> {
  const { tx } = call;
  const [copy] = await tx<
    { doc: RichDoc; answers: Answers; revision: number }[]
  >`select doc, answers, revision from working_copy where piece_id = ${pieceId}`;
  const { doc, answers, revision } = copy!;
  // About the first sentence.
  const end = plainText(doc).text.indexOf(".") + 1;
  const asked = { of: "classmate" as const, readerId: null, question, start: 0, end };
  await askForLook(asStudent(call, person), pieceId, { doc, answers, ...asked }, Number(revision));
  if (!answer) return;
  const [look] = await tx<{ id: string; readerId: string; text: string }[]>`
    select look.id, look.reader_id, checkpoint.text
    from look
    join checkpoint on checkpoint.id = look.checkpoint_id
    where look.piece_id = ${pieceId}`;
  const [reader] = await tx<
    Person[]
  >`select id, kind, name, called, school_id from person where id = ${look!.readerId}`;
  const as = asStudent(call, { ...reader!, zone: call.who.zone });
  await sayInLook(as, look!.id, { ...note(call, answer), place: null, start: 0, end });
  const word = look!.text.indexOf(" ");
  await sayInLook(as, look!.id, {
    ...{ ...note(call, ""), kind: "insert", place: null, start: word, end: word },
    replacement: " first",
  });
  await endLook(as, look!.id, { as: "read" });
}

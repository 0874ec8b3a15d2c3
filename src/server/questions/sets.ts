import { checkQuestions, type Question } from "@/core/questions/question";
import { Conflict, Invalid, NotFound } from "@/core/refusals";
import { canonicalJson } from "@/core/text/canonical";
import type { QuestionSetView } from "@/core/views/workViews";
import { requireKind } from "../access/standing";
import type { Call, ReadCall } from "../call";

type Row = QuestionSetView & { lineId: string };

/** A teacher's sets of questions, of each the newest version. */
export async function listSets({ db, who }: ReadCall): Promise<QuestionSetView[]> {
  requireKind(who, "teacher");
  const rows = await db<Row[]>`
    select distinct on (question_set.line_id)
      question_set.id, question_set.line_id, question_set.name, question_set.version, question_set.questions, question_set.revision,
      (select count(*)::int from assignment_questions where set_id = question_set.id) as used_in
    from question_set
    where question_set.owner_id = ${who.id} and question_set.deleted_at is null
    order by question_set.line_id, question_set.version desc`;
  return rows.map(({ lineId: _, ...row }) => row).sort((a, b) => a.name.localeCompare(b.name));
}

async function one(call: Call, setId: string): Promise<Row> {
  const [line] = await call.tx<
    { lineId: string }[]
  >`select line_id from question_set where id = ${setId} and owner_id = ${call.who.id} and deleted_at is null for update`;
  if (!line) throw new NotFound();
  const found = (await listSets(call)).find((s) => s.id === setId);
  if (!found)
    throw new Conflict(
      "This set was changed in another window. What you typed is still here.",
      null,
    );
  return { ...found, lineId: line.lineId };
}

export type GivenSet = { name: string; questions: Question[] };

function check({ questions }: GivenSet): void {
  const faults = checkQuestions(questions);
  const ids = questions.map((q) => q.id);
  if (new Set(ids).size < ids.length) faults.questions = "Two questions have the same id.";
  if (Object.keys(faults).length > 0) throw new Invalid(faults);
}

export async function addSet(call: Call, given: GivenSet): Promise<QuestionSetView> {
  const { tx, who, now, newId } = call;
  requireKind(who, "teacher");
  check(given);
  const id = newId();
  await tx`
    insert into question_set (id, owner_id, name, line_id, version, questions, created_at)
    values (${id}, ${who.id}, ${given.name.trim()}, ${id}, 1, ${tx.json(given.questions as never)}, ${now})`;
  return one(call, id);
}

/** Changes a set. One that was handed out is never changed: the change is its next version, and work that has the old one keeps it. */
export async function changeSet(
  call: Call,
  setId: string,
  given: GivenSet,
  revision: number,
): Promise<QuestionSetView> {
  const { tx, who, now, newId } = call;
  const stored = await one(call, setId);
  if (stored.revision !== revision)
    throw new Conflict(
      "This set was changed in another window. What you typed is still here.",
      stored,
    );
  check(given);
  if (stored.usedIn === 0 || canonicalJson(stored.questions) === canonicalJson(given.questions)) {
    await tx`update question_set set name = ${given.name.trim()}, questions = ${tx.json(given.questions as never)}, revision = revision + 1 where id = ${setId}`;
    return one(call, setId);
  }
  const id = newId();
  await tx`
    insert into question_set (id, owner_id, name, line_id, version, questions, created_at)
    values (${id}, ${who.id}, ${given.name.trim()}, ${stored.lineId}, ${stored.version + 1}, ${tx.json(given.questions as never)}, ${now})`;
  return one(call, id);
}

export async function deleteSet(call: Call, setId: string): Promise<{ deleted: true }> {
  const { lineId } = await one(call, setId);
  await call.tx`update question_set set deleted_at = ${call.now} where line_id = ${lineId}`;
  return { deleted: true };
}

/** Their own, or in use in a section they teach. */
export async function mayUseSets({ tx, who }: Call, ids: readonly string[]): Promise<boolean> {
  if (ids.length === 0) return true;
  const [found] = await tx<{ n: number }[]>`
    select count(*)::int as n
    from question_set
    where id = any(${[...new Set(ids)]})
      and (owner_id = ${who.id} or exists (
        select
        from assignment_questions
        join hand_out on hand_out.assignment_id = assignment_questions.assignment_id
        join section_teacher on section_teacher.section_id = hand_out.section_id and section_teacher.person_id = ${who.id}
        where assignment_questions.set_id = question_set.id
      ))`;
  return found!.n === new Set(ids).size;
}

import { plainText } from "@/core/text/plainText";
import type { RichDoc } from "@/core/text/richDoc";
import type { Db } from "../db/connection";

/**
 * What the recogniser is told of a class before it hears a clip: the names of its students, the task's own words, and
 * for a teacher's voice the comments that its teachers use. A student's words are not guessed from a teacher's bank, which
 * is nothing a student should read. Everything here stays on the server.
 */
export async function classTexts(db: Db, clipId: string): Promise<string[]> {
  const [clip] = await db<
    { pieceId: string | null; madeBy: string }[]
  >`select piece_id, made_by from clip where id = ${clipId}`;
  if (!clip) return [];
  const [names, tasks, comments] = await Promise.all([
    db<{ name: string; called: string }[]>`
      select distinct person.name, person.called
      from enrolment
      join person on person.id = enrolment.student_id
      where enrolment.left_on is null and enrolment.section_id in (
        select hand_out.section_id from piece join hand_out on hand_out.id = piece.hand_out_id where piece.id = ${clip.pieceId}
        union
        select section_id from section_teacher where person_id = ${clip.madeBy} and ${clip.pieceId === null}
      )`,
    clip.pieceId === null
      ? []
      : db<{ title: string; instructions: RichDoc }[]>`
          select assignment.title, assignment.instructions
          from piece
          join hand_out on hand_out.id = piece.hand_out_id
          join assignment on assignment.id = hand_out.assignment_id
          where piece.id = ${clip.pieceId}`,
    db<{ text: string }[]>`
      select text
      from comment
      where deleted_at is null and exists (select from person where id = ${clip.madeBy} and kind = 'teacher') and owner_id in (
        select ${clip.madeBy}::uuid
        union
        select person_id from section_teacher join hand_out using (section_id) join piece on piece.hand_out_id = hand_out.id where piece.id = ${clip.pieceId}
      )
      order by used_count desc, id
      limit 400`,
  ]);
  return [
    ...names.flatMap(({ name, called }) => [name, called]),
    ...tasks.flatMap(({ title, instructions }) => [title, plainText(instructions).text]),
    ...comments.map(({ text }) => text.replace(/\{[^}]*\}/g, ". ")),
  ];
}

/** How words are written that have capitals within a sentence: names. By their small letters. */
export function spellings(texts: readonly string[]): Map<string, string> {
  const found = new Map<string, string>();
  for (const text of texts) {
    for (const [n, word] of [...text.matchAll(/\p{L}+(?:['’]\p{L}+)*/gu)].entries()) {
      const before = text.slice(0, word.index).trimEnd();
      const begins = n === 0 || /[.!?:;\n“"]$/.test(before);
      if (!begins && /^\p{Lu}/u.test(word[0]) && !/^I('|$)/.test(word[0]))
        found.set(word[0].toLowerCase().replace(/’/g, "'"), word[0]);
    }
  }
  return found;
}

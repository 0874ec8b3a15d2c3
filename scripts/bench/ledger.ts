import { EMPTY_CELL, MOST_CELLS } from "../../src/core/ledger/cell";
import type { Person } from "../../src/server/call";
import type { Sql } from "../../src/server/db/connection";
import { sectionGrades } from "../../src/server/grades/grades";
import { ledgerWithGrades } from "../../src/server/ledger/out";
import { addColumn } from "../../src/server/ledger/addColumn";
import { saveCells } from "../../src/server/ledger/save";
import { asPerson, smallSchool } from "../../tests/support/database";
import { median } from "./desk";

const STUDENTS = 120;
const COLUMNS = 150;
const NOW = new Date("2026-10-14T15:00:00Z");

/** The largest Ledger there is: 120 students by 150 columns, half of the cells typed into. */
export async function ledgerLines(sql: Sql): Promise<string[]> {
  const { owner, sectionId, pieceIds } = await makeLedger(sql);
  const teacher = asPerson(sql, owner);
  const timed = async (work: () => Promise<unknown>, times = 7) => {
    const took: number[] = [];
    for (let n = 0; n < times; n += 1) {
      const began = performance.now();
      await work();
      took.push(performance.now() - began);
    }
    return median(took);
  };
  const view = await timed(() => teacher.read(NOW, (call) => ledgerWithGrades(call, sectionId)));
  const grades = await timed(() => teacher.read(NOW, (call) => sectionGrades(call, sectionId)));
  const stored = new Map<string, string>();
  let typed = 0;
  const save = (ids: readonly string[]) =>
    teacher.change(NOW, (call) => {
      typed = (typed % 9) + 1;
      const cells = ids.map((pieceId) => ({
        pieceId,
        was: { ...EMPTY_CELL, score: stored.get(pieceId) ?? "" },
        now: { ...EMPTY_CELL, score: String(typed) },
      }));
      ids.forEach((id) => stored.set(id, String(typed)));
      return saveCells(call, sectionId, cells);
    });
  const one = await timed(() => save(pieceIds.slice(0, 1)));
  const fill = await timed(async () => {
    for (let n = 0; n < 120; n += MOST_CELLS) await save(pieceIds.slice(n, n + MOST_CELLS));
  }, 3);
  const ms = (n: number) => `${n.toFixed(0)} ms`;
  return [
    `- The Ledger of ${STUDENTS} students and ${COLUMNS} columns, read with its grades: ${ms(view)} (target: under 500 ms); its grades alone: ${ms(grades)}.`,
    `- One cell of it saved, with the grade that comes of it: ${ms(one)}; 120 cells filled: ${ms(fill)} in ${120 / MOST_CELLS} requests.`,
  ];
}

/** Columns on paper, one a day back from now; those of the first half have a draft of a score. */
async function makeLedger(
  sql: Sql,
): Promise<{ owner: Person; sectionId: string; pieceIds: string[] }> {
  const { owner, sectionId } = await smallSchool(sql, STUDENTS);
  const column = { title: "Quiz", points: "10", on: "2026-10-13", category: "" };
  const { handOutId } = await asPerson(sql, owner).change(NOW, (call) =>
    addColumn(call, sectionId, column),
  );
  await sql`
    with more as (
      insert into assignment (id, course_id, created_by, title, instructions, expects, parts, points_possible, score_kind, created_at)
      select gen_random_uuid(), course_id, assignment.created_by, title || ' ' || n, instructions, expects, parts, points_possible, score_kind, assignment.created_at
      from assignment join hand_out on assignment_id = assignment.id, generate_series(1, ${COLUMNS - 1}) n
      where hand_out.id = ${handOutId}
      returning id
    )
    insert into hand_out (id, assignment_id, section_id, created_by, created_at, opens_at, due_at, grace_minutes)
    select gen_random_uuid(), more.id, section_id, created_by, created_at, opens_at, due_at - row_number() over () * interval '8 hours', grace_minutes
    from hand_out, more
    where hand_out.id = ${handOutId}`;
  await sql`
    insert into piece (id, hand_out_id, student_id)
    select gen_random_uuid(), hand_out.id, piece.student_id
    from hand_out, piece
    where hand_out.section_id = ${sectionId} and hand_out.id <> ${handOutId} and piece.hand_out_id = ${handOutId}`;
  const rows = await sql<{ id: string }[]>`
    select piece.id from piece join hand_out on hand_out.id = hand_out_id
    where section_id = ${sectionId} order by hand_out.due_at desc, piece.id`;
  const half = rows.slice(rows.length / 2).map((row) => row.id);
  await sql`insert into round (piece_id, number, opened_at) select id, 1, ${NOW} from piece where id = any(${half}) on conflict do nothing`;
  await sql`
    insert into feedback (piece_id, round_number, score_typed, points, begun_by, changed_by, changed_at)
    select id, 1, '8', 8, ${owner.id}, ${owner.id}, ${NOW} from piece where id = any(${half})`;
  await sql`analyze`;
  return { owner, sectionId, pieceIds: rows.map((row) => row.id) };
}

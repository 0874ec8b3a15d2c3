import { connect } from "../../src/server/db/connection";

/** Another 200,000 pieces of the same school in 400 sections, so that a query that grows with the school shows it. */
async function main(): Promise<void> {
  const sql = connect(process.env.DATABASE_URL!, 2);
  await sql.begin(async (tx) => {
    await tx`create temporary table many_sections as select gen_random_uuid() as id, n from generate_series(1, 400) n`;
    await tx`insert into course (id, school_id, term_id, name) select gen_random_uuid(), school.id, term.id, 'Many' from school, term`;
    await tx`insert into section (id, course_id, name) select many_sections.id, course.id, 'Many ' || n from many_sections, course where course.name = 'Many'`;
    await tx`insert into section_teacher (section_id, person_id, role, may_hand_back) select many_sections.id, person.id, 'owner', true from many_sections, person where person.name = 'Imke Solheim'`;
    await tx`
      insert into person (id, school_id, kind, name, called, sort_name, school_name, password_hash)
      select gen_random_uuid(), school.id, 'student', 'Many ' || n, 'Many', 'Many ' || n, 'many.' || n, '-' from school, generate_series(1, 10000) n`;
    await tx`
      insert into enrolment (section_id, student_id, joined_on)
      select many_sections.id, person.id, date '2026-09-08'
      from person join many_sections on substring(person.school_name from 6)::int % 400 = many_sections.n % 400
      where person.school_name like 'many.%'`;
    await tx`create temporary table many_assignments as select gen_random_uuid() as id, n from generate_series(1, 20) n`;
    await tx`
      insert into assignment (id, course_id, title, instructions, expects, parts, points_possible, created_by, created_at)
      select many_assignments.id, course.id, 'Many ' || n, '{"type":"doc","content":[{"type":"paragraph"}]}', 'work', '[{"id":"00000000-0000-7000-8000-000000000001","kind":"writing","label":"","types":[],"minutes":null,"setId":null,"show":"handed back","tries":null}]', 10, person.id, now()
      from many_assignments, course, person where course.name = 'Many' and person.name = 'Imke Solheim'`;
    await tx`
      insert into hand_out (id, assignment_id, section_id, opens_at, due_at, grace_minutes, created_by, created_at)
      select gen_random_uuid(), many_assignments.id, many_sections.id, now() - interval '20 days', now() - interval '5 days', 0, person.id, now()
      from many_assignments, many_sections, person where person.name = 'Imke Solheim'`;
    await tx`
      insert into piece (id, hand_out_id, student_id, state)
      select gen_random_uuid(), hand_out.id, enrolment.student_id, 'handed_in'
      from hand_out join many_sections on many_sections.id = hand_out.section_id join enrolment on enrolment.section_id = hand_out.section_id`;
    await tx`insert into round (piece_id, number, opened_at) select piece.id, 1, now() from piece where not exists (select from round where piece_id = piece.id)`;
    await tx`
      insert into version (id, piece_id, round_number, number, doc, text, words, sha256, receipt, due_at, grace_minutes, handed_in_at)
      select gen_random_uuid(), piece.id, 1, 1, '{"type":"doc","content":[{"type":"paragraph"}]}', '', 0, sha256('x'), 'bench ' || piece.id, now(), 0, now()
      from piece where piece.state = 'handed_in' and not exists (select from version where piece_id = piece.id)`;
    await tx`
      insert into event (school_id, piece_id, hand_out_id, actor_id, kind, at)
      select school.id, piece.id, piece.hand_out_id, piece.student_id, 'handed in', now() from piece, school`;
  });
  await sql`vacuum analyze`;
  await sql.end();
}

main().catch((error: Error) => {
  console.error(error);
  process.exitCode = 1;
});

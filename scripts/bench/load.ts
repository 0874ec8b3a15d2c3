import { connect, type Sql, type Tx } from "../../src/server/db/connection";

type Size = {
  /** Who share the further sections, and how many of those there are. */ teachers: number;
  sections: number;
  students: number;
  /** In how many sections each student is. */ each: number;
  /** Of each section: the first are long handed back, of the next some pieces wait, the last are still to be written. */
  done: number;
  reading: number;
  handOuts: number;
  /** Between two hand-outs. */ days: number;
};
const SIZES: Record<string, Size> = {
  "200,000 pieces": {
    ...{ teachers: 80, sections: 400, students: 10_000, each: 1 },
    ...{ done: 14, reading: 17, handOuts: 20, days: 3 },
  },
  // A school of 3,000 over two terms: 609,000 pieces.
  school: {
    ...{ teachers: 180, sections: 900, students: 3000, each: 7 },
    ...{ done: 23, reading: 26, handOuts: 29, days: 7 },
  },
};
const SIZE = SIZES[process.env.ALMANAC_BENCH_SIZE ?? "200,000 pieces"]!;
const { teachers: TEACHERS, sections: SECTIONS, students: STUDENTS } = SIZE;
const { done: DONE, reading: READING, handOuts: HAND_OUTS } = SIZE;

/**
 * Many further pieces of the same school, which hold what the demo's pieces hold: writing, marks, feedback, hand-backs
 * and messages (five marks to a piece), so that a query that grows with the school shows it.
 */
async function main(): Promise<void> {
  const sql = connect(process.env.DATABASE_URL!, 2);
  // Written in one go: with its usual room the log would force everything to the disk again and again.
  await sql`alter system set max_wal_size = '16GB'`;
  await sql`select pg_reload_conf()`;
  await sql.begin(async (tx) => {
    await unbounded(tx);
    await makeSchool(tx);
    await makePieces(tx);
  });
  await fill(sql);
  await sql`vacuum analyze`;
  // What was loaded is on the disk before anything is measured.
  await sql`checkpoint`;
  await sql.end();
}

/** As long as it takes, and without checks: every row is a copy of one that was checked, or is made to fit. */
async function unbounded(tx: Tx): Promise<void> {
  await tx`set local statement_timeout = 0`;
  await tx`set local session_replication_role = replica`;
}

async function makeSchool(tx: Tx): Promise<void> {
  await tx`create temporary table many_sections as select gen_random_uuid() as id, n from generate_series(1, ${SECTIONS}::int) n`;
  await tx`insert into course (id, school_id, term_id, name) select gen_random_uuid(), school.id, term.id, 'Many' from school cross join (select id from term order by starts_on desc limit 1) term`;
  await tx`insert into section (id, course_id, name) select many_sections.id, course.id, 'Many ' || n from many_sections, course where course.name = 'Many'`;
  await tx`
    insert into person (id, school_id, kind, name, called, sort_name, school_name, password_hash)
    select gen_random_uuid(), school.id, 'teacher', 'Teacher ' || n, 'Teacher', 'Teacher ' || n, 'teacher.' || n, '-' from school, generate_series(1, ${TEACHERS}::int) n`;
  await tx`
    insert into section_teacher (section_id, person_id, role, may_hand_back)
    select many_sections.id, person.id, 'owner', true
    from many_sections join person on person.school_name = 'teacher.' || (1 + many_sections.n % ${TEACHERS}::int)`;
  await tx`
    insert into person (id, school_id, kind, name, called, sort_name, school_name, password_hash)
    select gen_random_uuid(), school.id, 'student', 'Many ' || n, 'Many', 'Many ' || n, 'many.' || n, '-' from school, generate_series(1, ${STUDENTS}::int) n`;
  await tx`
    insert into enrolment (section_id, student_id, joined_on)
    select many_sections.id, person.id, current_date - 200
    from person
    cross join generate_series(0, ${SIZE.each - 1}::int) k
    -- Each student's sections lie far apart, so that two of one class meet others in the next.
    join many_sections
      on (substring(person.school_name from 6)::int * ${SIZE.each}::int + k * 129) % ${SECTIONS}::int = many_sections.n % ${SECTIONS}::int
    where person.school_name like 'many.%'`;
}

async function makePieces(tx: Tx): Promise<void> {
  await tx`create temporary table many_assignments as select gen_random_uuid() as id, n from generate_series(1, ${HAND_OUTS}::int) n`;
  await tx`
    insert into assignment (id, course_id, title, instructions, expects, parts, points_possible, created_by, created_at)
    select many_assignments.id, course.id, 'Many ' || n, '{"type":"doc","content":[{"type":"paragraph"}]}', 'work', '[{"id":"00000000-0000-7000-8000-000000000001","kind":"writing","label":"","types":[],"minutes":null,"setId":null,"show":"handed back","tries":null}]', 10, person.id, now()
    from many_assignments, course, person where course.name = 'Many' and person.name = 'Imke Solheim'`;
  await tx`
    insert into hand_out (id, assignment_id, section_id, opens_at, due_at, grace_minutes, created_by, created_at)
    select gen_random_uuid(), many_assignments.id, many_sections.id, now() - make_interval(days => 60 + ${SIZE.days * DONE}::int), now() + (many_assignments.n - ${READING}::int) * make_interval(days => ${SIZE.days}) - interval '1 day', 0, person.id, now()
    from many_assignments, many_sections, person where person.name = 'Imke Solheim'`;
  await tx`
    insert into piece (id, hand_out_id, student_id, state)
    select gen_random_uuid(), hand_out.id, enrolment.student_id, case when hand_out.due_at > now() then 'not_opened' else 'handed_in' end
    from hand_out join many_sections on many_sections.id = hand_out.section_id join enrolment on enrolment.section_id = hand_out.section_id`;
  await tx`insert into round (piece_id, number, opened_at) select piece.id, 1, now() from piece where not exists (select from round where piece_id = piece.id)`;
  await tx`
    insert into event (school_id, piece_id, hand_out_id, actor_id, kind, at)
    select school.id, piece.id, piece.hand_out_id, piece.student_id, 'handed in', now()
    from piece join person on person.id = piece.student_id cross join school
    where person.school_name like 'many.%' and piece.state = 'handed_in'`;
}

/** Rows of the demo that are copied into other pieces, with the fields that differ there. */
async function copy(tx: Tx, table: string, changes: string, from: string): Promise<void> {
  const columns = await tx<{ name: string }[]>`
    select column_name as name
    from information_schema.columns
    where table_schema = 'public' and table_name = ${table} and is_generated = 'NEVER'`;
  const names = columns.map(({ name }) => name);
  await tx.unsafe(`
    insert into ${table} (${names.join(", ")})
    select ${names.map((name) => `made.${name}`).join(", ")}
    from ${from}
    cross join lateral jsonb_populate_record(null::${table}, to_jsonb(source) || jsonb_build_object(${changes})) made`);
}

/** What each further piece holds: that of a piece of the demo which was handed back, one after the other. */
async function fill(sql: Sql): Promise<void> {
  await sql.begin(async (tx) => {
    await unbounded(tx);
    await tx`
      create temporary table pattern as
      select row_number() over (order by piece.id) - 1 as n, piece.id as piece_id, version.id as version_id
      from piece
      join version on version.piece_id = piece.id and version.number = 1 and version.words > 100
      where exists (select from hand_back where piece_id = piece.id and round_number = 1)`;
    await tx`
      create temporary table filled as
      select piece.id, gen_random_uuid() as version_id, gen_random_uuid() as hand_back_id, pattern.piece_id as pattern_id, pattern.version_id as pattern_version,
        case when numbered.hand_out <= ${DONE}::int then 0 else numbered.n % 10 end as kind
      from (
        select piece.id, row_number() over (order by piece.id) as n, substring(assignment.title from 6)::int as hand_out
        from piece
        join person on person.id = piece.student_id
        join hand_out on hand_out.id = piece.hand_out_id
        join assignment on assignment.id = hand_out.assignment_id
        where person.school_name like 'many.%' and piece.state = 'handed_in'
      ) numbered
      join piece on piece.id = numbered.id
      join pattern on pattern.n = numbered.n % (select count(*) from pattern)`;
    await tx`create index on filled (pattern_id)`;
    await tx`analyze filled`;
    const own = "'id', gen_random_uuid(), 'piece_id', filled.id";
    await copy(
      tx,
      "version",
      "'id', filled.version_id, 'piece_id', filled.id, 'receipt', 'bench ' || filled.id",
      "filled join version source on source.id = filled.pattern_version",
    );
    // Of those that are being read, two in ten are handed back, three have a draft, five wait.
    const begun = "filled.kind < 5 and source.round_number = 1";
    await copy(
      tx,
      "feedback",
      "'piece_id', filled.id",
      `filled join feedback source on source.piece_id = filled.pattern_id and ${begun}`,
    );
    await copy(
      tx,
      "mark",
      `${own}, 'version_id', filled.version_id, 'again_of', null`,
      `filled join mark source on source.version_id = filled.pattern_version and ${begun}`,
    );
    await copy(
      tx,
      "hand_back",
      "'id', filled.hand_back_id, 'piece_id', filled.id, 'number', 1, 'outcome', 'final', 'next_due_at', null, 'content', source.content || jsonb_build_object('versionId', filled.version_id)",
      `filled join lateral (select * from hand_back where piece_id = filled.pattern_id and round_number = 1 order by number limit 1) source on filled.kind < 2`,
    );
    await copy(
      tx,
      "score",
      `${own}, 'hand_back_id', filled.hand_back_id`,
      `filled join lateral (select * from score where piece_id = filled.pattern_id and round_number = 1 limit 1) source on filled.kind < 2`,
    );
    await copy(
      tx,
      "message",
      `${own}, 'mark_id', null, 'clip_id', null, 'checkpoint_id', null`,
      "filled join message source on source.piece_id = filled.pattern_id and source.body <> ''",
    );
    await tx`
      update piece
      set state = 'handed_back'
      from filled
      where filled.id = piece.id and filled.kind < 2`;
  });
}

main().catch((error: Error) => {
  console.error(error);
  process.exitCode = 1;
});

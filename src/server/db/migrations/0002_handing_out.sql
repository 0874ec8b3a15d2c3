-- Handing out: real classes (meetings, groups, who joins and leaves, rosters from files), the school's
-- calendar, the whole of an assignment, who gets it and when, and how it counts.

-- ---- the school and its calendar ---------------------------------------------------------------
alter table school
  -- ISO weekdays (1 is Monday) on which the school meets.
  add column meets_on smallint[] not null default '{1,2,3,4,5}'
    check (meets_on <@ '{1,2,3,4,5,6,7}'::smallint[] and cardinality(meets_on) > 0),
  -- Wall-clock time at which the school day ends.
  add column day_ends text not null default '15:30' check (day_ends ~ '^([01]\d|2[0-3]):[0-5]\d$');

alter table term add column source_id text;
create unique index term_source on term (school_id, source_id);

alter table closure
  -- Where it was imported from and its key there; null: typed.
  add column source text,
  add column source_key text,
  add constraint closure_source_whole check ((source is null) = (source_key is null));
create unique index closure_source on closure (school_id, source, source_key);

create table calendar_feed (
  person_id     uuid primary key references person,
  -- The secret in the address: random, and new whenever its owner asks. Kept readable, since it is shown to them again.
  secret        uuid not null unique,
  alarm_minutes integer check (alarm_minutes between 0 and 20160),
  created_at    timestamptz not null
);

-- ---- people and classes ------------------------------------------------------------------------
alter table person
  -- The id in the school's records system.
  add column source_id text,
  -- Null: no password yet; they cannot sign in until the office gives one.
  alter column password_hash drop not null;
create unique index person_source on person (school_id, source_id);

alter table course add column source_id text;
create unique index course_source on course (term_id, source_id);
alter table section
  add column source_id text,
  -- The default for its hand-outs, as core/scores/latePolicy reads it.
  add column late_policy jsonb not null default '{"kind":"flag"}',
  add column created_by uuid references person;
create index section_source on section (source_id) where source_id is not null;

create table meeting (
  id         uuid primary key,
  section_id uuid not null references section,
  weekday    smallint not null check (weekday between 1 and 7),
  starts     text not null check (starts ~ '^([01]\d|2[0-3]):[0-5]\d$'),
  ends       text not null check (ends ~ '^([01]\d|2[0-3]):[0-5]\d$' and ends > starts),
  unique (section_id, weekday, starts)
);

create table section_group (
  id           uuid primary key,
  section_id   uuid not null references section,
  name         text not null check (name <> ''),
  -- Extra time its members have on everything that is handed out to the section.
  extra_amount integer check (extra_amount between 1 and 400),
  extra_unit   text check (extra_unit in ('school days', 'days', 'hours')),
  revision     bigint not null default 1,
  check ((extra_amount is null) = (extra_unit is null))
);
create unique index section_group_name on section_group (section_id, lower(name));

create table group_member (
  group_id   uuid not null references section_group on delete cascade,
  student_id uuid not null references person,
  primary key (group_id, student_id)
);
create index group_member_student on group_member (student_id);

create table category (
  id         uuid primary key,
  section_id uuid not null references section,
  name       text not null check (name <> ''),
  weight     numeric(7, 3) not null check (weight >= 0),
  position   integer not null
);
create unique index category_name on category (section_id, lower(name));

-- ---- files -------------------------------------------------------------------------------------
create table upload (
  id         uuid primary key,
  owner_id   uuid not null references person,
  sha256     bytea not null references blob,
  name       text not null check (name <> ''),
  media_type text not null,
  size       bigint not null,
  created_at timestamptz not null
);
create index upload_owner on upload (owner_id, created_at);

-- ---- rubrics -----------------------------------------------------------------------------------
create table rubric (
  id         uuid primary key,
  owner_id   uuid not null references person,
  name       text not null check (name <> ''),
  -- Versions of one rubric share a line; a version that was scored with is never changed.
  line_id    uuid not null,
  version    integer not null check (version >= 1),
  content    jsonb not null,
  revision   bigint not null default 1,
  created_at timestamptz not null,
  deleted_at timestamptz,
  unique (line_id, version)
);
create index rubric_owner on rubric (owner_id) where deleted_at is null;

-- ---- the assignment ----------------------------------------------------------------------------
alter table assignment
  add column number integer check (number >= 1),
  add column emoji text,
  add column self_assessment jsonb,
  add column words_least integer check (words_least > 0),
  add column words_most integer check (words_most >= coalesce(words_least, 1)),
  add column open_before boolean not null default false,
  add column score_kind text not null default 'points'
    check (score_kind in ('points', 'percent', 'letters', 'levels', 'completion', 'words', 'none')),
  add column rubric_id uuid references rubric,
  add column counts boolean not null default true,
  add column extra_credit boolean not null default false,
  add column rounds_most integer check (rounds_most >= 1),
  add column rounds_until timestamptz,
  add column final_score text not null default 'latest' check (final_score in ('latest', 'best', 'average', 'win back')),
  add column win_back_percent numeric(6, 3) not null default 50 check (win_back_percent between 0 and 100),
  add column revision bigint not null default 1;
update assignment set score_kind = 'words' where points_possible is null;
alter table assignment add constraint assignment_scored check ((score_kind in ('words', 'none')) = (points_possible is null));
create unique index assignment_number on assignment (course_id, number);
create index assignment_rubric on assignment (rubric_id);

-- Another wording of the same assignment for some students; they share its column in the Ledger.
create table assignment_version (
  id            uuid primary key,
  assignment_id uuid not null references assignment,
  name          text not null check (name <> ''),
  instructions  jsonb not null,
  unique (assignment_id, name)
);

create table material (
  id            uuid primary key,
  assignment_id uuid not null references assignment,
  -- Null: for everyone.
  version_id    uuid references assignment_version,
  position      integer not null,
  kind          text not null check (kind in ('file', 'link', 'text')),
  use           text not null check (use in ('look', 'copy')),
  title         text not null check (title <> ''),
  href          text check ((kind = 'link') = (href is not null)),
  upload_id     uuid references upload check ((kind = 'file') = (upload_id is not null)),
  doc           jsonb check ((kind = 'text') = (doc is not null)),
  check (kind <> 'link' or use = 'look')
);
create index material_assignment on material (assignment_id, position);
create index material_upload on material (upload_id);

-- Pictures in instructions: who may see the assignment may fetch them.
create table assignment_picture (
  assignment_id uuid not null references assignment,
  upload_id     uuid not null references upload,
  version_id    uuid references assignment_version,
  unique nulls not distinct (assignment_id, upload_id, version_id)
);
create index assignment_picture_upload on assignment_picture (upload_id);

-- ---- the hand-out ------------------------------------------------------------------------------
alter table hand_out
  add column audience text not null default 'section' check (audience in ('section', 'chosen')),
  add column category_id uuid references category on delete set null,
  add column late_policy jsonb not null default '{"kind":"flag"}',
  -- Days after closes at which it is put away by itself; null: never.
  add column archive_days integer default 30 check (archive_days between 0 and 400),
  add column withdrawn_at timestamptz,
  add column withdrawn_by uuid references person,
  add column revision bigint not null default 1,
  add constraint hand_out_withdrawn check ((withdrawn_at is null) = (withdrawn_by is null)),
  -- Work that was done before it was written down here is due before it opens.
  drop constraint hand_out_check;
-- The record outlives what it tells of: a hand-out nobody had begun can be deleted.
alter table event drop constraint event_hand_out_id_fkey, drop constraint event_piece_id_fkey;

create table hand_out_group (
  hand_out_id uuid not null references hand_out on delete cascade,
  group_id    uuid not null references section_group on delete cascade,
  primary key (hand_out_id, group_id)
);
create index hand_out_group_group on hand_out_group (group_id);

alter table piece
  -- Who set own_due_at: a teacher for this student, or the extra time of a group, which follows the hand-out.
  add column own_due_from text check (own_due_from in ('teacher', 'group')),
  add column version_id uuid references assignment_version,
  -- The student is not (or no longer) given this: all is kept, and hidden.
  add column removed_at timestamptz,
  -- The student left the section before it was due: what was done stays, nothing is owed.
  add column left_at timestamptz;
update piece set own_due_from = 'teacher' where own_due_at is not null;
alter table piece add constraint piece_own_due check ((own_due_at is null) = (own_due_from is null));

-- A student's own copy of a file that was given as "a copy for each student"; the newest is the one that counts.
create table piece_copy (
  piece_id    uuid not null references piece,
  material_id uuid not null references material,
  number      integer not null check (number >= 1),
  upload_id   uuid not null references upload,
  saved_at    timestamptz not null,
  primary key (piece_id, material_id, number)
);

-- What a student is told about a change to work that was handed out to them.
create table piece_notice (
  id       uuid primary key,
  piece_id uuid not null references piece on delete cascade,
  words    text not null check (words <> ''),
  at       timestamptz not null
);
create index piece_notice_piece on piece_notice (piece_id, at);

-- How it went, in the student's own words, said with a version.
create table self_assessment (
  version_id uuid primary key references version,
  choice     text,
  words      text not null default ''
);

alter table feedback add column picks jsonb not null default '{}';
-- As the scale shows it ("B+"), the points before lateness took some off, and the sum in words.
alter table score
  add column shown text,
  add column raw_points numeric(9, 3),
  add column deduction text;

-- A page of "Hand out" that is not handed out yet, or is kept to be used again; its owner's alone.
create table hand_out_draft (
  id         uuid primary key,
  owner_id   uuid not null references person,
  title      text not null default '',
  plan       jsonb not null,
  -- On the Shelf, to be used again.
  kept       boolean not null default false,
  revision   bigint not null default 1,
  created_at timestamptz not null,
  changed_at timestamptz not null
);
create index hand_out_draft_owner on hand_out_draft (owner_id, changed_at desc);

-- Bringing in a roster: what was sent, what it would change, and how far applying it is.
create table roster_run (
  id         uuid primary key,
  school_id  uuid not null references school,
  made_by    uuid not null references person,
  name       text not null,
  -- For one section only (pasted on its page); null: the school's.
  section_id uuid references section,
  sha256     bytea not null references blob,
  complete   boolean not null,
  state      text not null check (state in ('checked', 'applying', 'applied', 'failed')),
  report     jsonb not null,
  progress   text not null default '',
  made_at    timestamptz not null,
  changed_at timestamptz not null
);
create index roster_run_school on roster_run (school_id, made_at desc);

-- The title as it stands everywhere: its label, its number in the course, and the words.
create function full_title(emoji text, number integer, title text) returns text language sql immutable as $$
  select concat(emoji || ' ', number || ' · ', title)
$$;

-- ---- a piece with what follows from its dates --------------------------------------------------
-- The same rules as the core's (core/pieces/life, core/time/lateness), which a test holds against each
-- other. every_piece has all; piece_standing leaves out what is hidden: pieces taken away from a
-- student and hand-outs that were withdrawn.
drop view piece_standing;
create view every_piece as
select
  piece.id, piece.hand_out_id, piece.student_id, piece.state, piece.round, piece.excused, piece.seen_at,
  piece.removed_at, piece.left_at, piece.own_due_from,
  hand_out.section_id, hand_out.opens_at, hand_out.promised_at, hand_out.grace_minutes, hand_out.withdrawn_at, hand_out.archive_days,
  case when hand_out.closes_at is not null then greatest(hand_out.closes_at, piece.own_due_at) end as closes_at,
  full_title(assignment.emoji, assignment.number, assignment.title) as title, assignment.expects, assignment.points_possible, assignment.score_kind,
  coalesce(revision.due_at, this_round.due_at, piece.own_due_at, hand_out.due_at) as due,
  newest.handed_in_at,
  newest.round_number as handed_in_round,
  coalesce(
    newest.round_number = piece.round
    and newest.handed_in_at > coalesce(this_round.due_at, piece.own_due_at, hand_out.due_at) + make_interval(mins => hand_out.grace_minutes),
    false) as late,
  coalesce(revision.due_at, this_round.due_at, piece.own_due_at, hand_out.due_at) + make_interval(mins => hand_out.grace_minutes) as last_moment,
  piece.state in ('not_opened', 'started') and assignment.expects = 'writing' and not piece.excused and piece.left_at is null as awaited,
  piece.state in ('not_opened', 'started', 'handed_in')
    and exists (select from feedback where feedback.piece_id = piece.id and feedback.round_number = piece.round) as drafted,
  -- A question waits: the last word in the thread is the student's, and nothing was handed back since.
  coalesce(
    last_word.author_id = piece.student_id
    and not exists (select from hand_back where hand_back.piece_id = piece.id and hand_back.handed_back_at > last_word.sent_at),
    false) as asked
from piece
join hand_out on hand_out.id = piece.hand_out_id
join assignment on assignment.id = hand_out.assignment_id
left join round this_round on this_round.piece_id = piece.id and this_round.number = piece.round
left join round revision on revision.piece_id = piece.id and revision.number = piece.round + 1 and piece.state = 'to_revise'
left join lateral (
  select version.handed_in_at, version.round_number
  from version
  where version.piece_id = piece.id
  order by version.number desc
  limit 1
) newest on piece.state not in ('not_opened', 'started')
left join lateral (
  select message.author_id, message.sent_at
  from message
  where message.piece_id = piece.id
  order by message.sent_at desc, message.id desc
  limit 1
) last_word on true;

create view piece_standing as
select *
from every_piece
where removed_at is null and withdrawn_at is null;

-- Put away by itself: so many days after it closed.
create function is_archived(closes_at timestamptz, archive_days integer, at timestamptz) returns boolean language sql immutable as $$
  select coalesce(closes_at + make_interval(days => archive_days) < at, false)
$$;

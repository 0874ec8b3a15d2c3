-- The Desk: marks on every kind of work, comment banks with folders and sharing, judgements on answers,
-- private notes, who is at a piece, and what a teacher has set for themselves.

-- ---- marks -------------------------------------------------------------------------------------
alter table mark
  drop constraint mark_kind_check,
  drop constraint mark_nature_check,
  drop constraint mark_check2,
  drop constraint mark_check3,
  -- Null: on the words from start_at to end_at. Else as core/marks/place reads it; the offsets are 0 then.
  add column place jsonb,
  add column strokes jsonb not null default '[]',
  -- The student's sentence that the note corrects.
  add column sentence text not null default '',
  add column criterion_id uuid,
  add column points text check (points ~ '^[-+]?[0-9]{1,4}(\.[0-9]{1,3})?$'),
  add constraint mark_kind check (kind in ('note', 'insert', 'delete', 'replace', 'transpose', 'tick', 'cross', 'question', 'star', 'stamp', 'ink')),
  add constraint mark_nature check (nature in ('remark', 'request', 'praise')),
  add constraint mark_on_words check (place is not null or kind = 'insert' or end_at > start_at),
  add constraint mark_stamp_asks_nothing check (nature <> 'request' or kind not in ('tick', 'cross', 'question', 'star', 'stamp'));
create index mark_comment on mark (comment_id) where deleted_at is null;
create index mark_by on mark (created_by, created_at desc) where kind = 'note';

-- ---- comment banks -----------------------------------------------------------------------------
alter table comment
  drop constraint comment_nature_check,
  add constraint comment_nature check (nature in ('remark', 'request', 'praise')),
  add column folder text not null default '',
  add column tags text[] not null default '{}',
  -- Who else may use it: nobody, the teachers of a course, or the school's.
  add column share text not null default 'own' check (share in ('own', 'course', 'school')),
  add column course_id uuid references course,
  add column kind text not null default 'note' check (kind in ('note', 'insert', 'delete', 'replace', 'tick', 'cross', 'question', 'star', 'stamp')),
  add column replacement text not null default '',
  add column criterion text not null default '',
  add column points text check (points ~ '^[-+]?[0-9]{1,4}(\.[0-9]{1,3})?$'),
  add constraint comment_course check ((share = 'course') = (course_id is not null));
create index comment_shared on comment (course_id) where share = 'course' and deleted_at is null;

-- Each use of a comment: what suggestions are ranked by.
create table comment_use (
  id            bigint generated always as identity primary key,
  comment_id    uuid not null references comment,
  person_id     uuid not null references person,
  assignment_id uuid not null references assignment,
  on_words      text not null,
  at            timestamptz not null
);
create index comment_use_person on comment_use (person_id, comment_id, at desc);

-- ---- scoring -----------------------------------------------------------------------------------
alter table feedback
  -- Why the score differs from the rubric's sum; for the section's teachers.
  add column score_reason text not null default '';
alter table hand_out
  -- Names are hidden on the Desk until a piece is handed back.
  add column anonymous boolean not null default false;
alter table piece
  add column flag text check (flag in ('away', 'unfinished', 'on paper'));

-- What a teacher says an answer is worth: for all answers alike, whoever gave them ...
create table answer_judgement (
  hand_out_id uuid not null references hand_out,
  part_id     uuid not null,
  question_id uuid not null,
  key         text not null,
  points      numeric(9, 3) not null,
  judged_by   uuid not null references person,
  judged_at   timestamptz not null,
  primary key (hand_out_id, part_id, question_id, key)
);
-- ... and for one student's alone; null takes the judgement of the group back for this one.
create table piece_judgement (
  piece_id    uuid not null references piece,
  part_id     uuid not null,
  question_id uuid not null,
  points      numeric(9, 3),
  judged_by   uuid not null references person,
  judged_at   timestamptz not null,
  primary key (piece_id, part_id, question_id)
);

-- ---- private notes -----------------------------------------------------------------------------
-- For the section's teachers only. On a piece, or (no piece) on the student in this section.
create table private_note (
  id         uuid primary key,
  section_id uuid not null references section,
  student_id uuid not null references person,
  piece_id   uuid references piece,
  author_id  uuid not null references person,
  body       text not null check (body <> ''),
  written_at timestamptz not null,
  deleted_at timestamptz
);
create index private_note_student on private_note (section_id, student_id) where deleted_at is null;
create table private_note_file (
  note_id   uuid not null references private_note,
  upload_id uuid not null references upload,
  primary key (note_id, upload_id)
);
create index private_note_file_upload on private_note_file (upload_id);

-- ---- at the Desk -------------------------------------------------------------------------------
-- Who is at a piece (seen lately), and how long they spent on it.
create table at_desk (
  piece_id  uuid not null references piece,
  person_id uuid not null references person,
  seconds   integer not null default 0 check (seconds >= 0),
  seen_at   timestamptz not null,
  primary key (piece_id, person_id)
);
create index at_desk_person on at_desk (person_id, seen_at desc);

-- What a person has set for themselves: keys, orders, where they were.
create table person_setting (
  person_id  uuid not null references person,
  name       text not null check (name in ('desk.keys', 'desk.stamps', 'desk.order', 'desk.place')),
  value      jsonb not null,
  changed_at timestamptz not null,
  primary key (person_id, name)
);

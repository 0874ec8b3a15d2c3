-- The student's side: every kind of work (writing, photos of paper, files, sound, film, questions), checkpoints,
-- uploads that can be cut and resumed, what is made from files, receipts with the device's own time, reminders.

-- ---- what is asked -----------------------------------------------------------------------------
alter table assignment
  -- What is to be handed in, in order, as core/handouts/parts reads it; none: nothing to hand in.
  add column parts jsonb not null default '[]';
update assignment
set parts = '[{"id":"00000000-0000-7000-8000-000000000001","kind":"writing","label":"","types":[],"minutes":null,"setId":null,"show":"handed back","tries":null}]'
where expects = 'writing';

update hand_out_draft
set plan = jsonb_set(plan #- '{work,expects}', '{work,parts}', case when plan #>> '{work,expects}' = 'nothing' then '[]' else '[{"id":"00000000-0000-7000-8000-000000000001","kind":"writing","label":"","types":[],"minutes":null,"setId":null,"show":"handed back","tries":null}]'::jsonb end)
where plan #> '{work,parts}' is null and plan ? 'work';

-- A set of questions with its key. Versions of one set share a line; one that was handed out is never changed.
create table question_set (
  id         uuid primary key,
  owner_id   uuid not null references person,
  name       text not null check (name <> ''),
  line_id    uuid not null,
  version    integer not null check (version >= 1),
  questions  jsonb not null,
  revision   bigint not null default 1,
  created_at timestamptz not null,
  deleted_at timestamptz,
  unique (line_id, version)
);
create index question_set_owner on question_set (owner_id) where deleted_at is null;

create table assignment_questions (
  assignment_id uuid not null references assignment,
  part_id       uuid not null,
  set_id        uuid not null references question_set,
  primary key (assignment_id, part_id)
);
create index assignment_questions_set on assignment_questions (set_id);

-- ---- limits the office sets --------------------------------------------------------------------
alter table school
  add column file_megabytes integer not null default 250 check (file_megabytes between 1 and 2000),
  add column piece_megabytes integer not null default 500 check (piece_megabytes between 1 and 10000),
  add column student_megabytes integer not null default 4000 check (student_megabytes between 1 and 100000),
  add column recording_minutes integer not null default 10 check (recording_minutes between 1 and 60);

-- ---- files on their way ------------------------------------------------------------------------
-- An upload that comes in parts (tus); its bytes become a blob when all are there.
create table transfer (
  id         text primary key,
  owner_id   uuid not null references person,
  piece_id   uuid not null references piece,
  part_id    uuid not null,
  name       text not null,
  size       bigint not null check (size >= 0),
  arrived    bigint not null default 0 check (arrived between 0 and size),
  created_at timestamptz not null,
  changed_at timestamptz not null,
  -- The item it became; its bytes are there then, and gone from here.
  item_id    uuid
);
create index transfer_owner on transfer (owner_id, changed_at);
create index transfer_piece on transfer (piece_id) where item_id is null;

create table transfer_chunk (
  transfer_id text not null references transfer on delete cascade,
  number      integer not null check (number >= 0),
  bytes       bytea not null check (octet_length(bytes) between 1 and 262144),
  primary key (transfer_id, number)
);
alter table transfer_chunk alter column bytes set storage external;

-- ---- what a piece is made of, beside its writing -----------------------------------------------
-- What an item holds never changes: a photo that is turned or cut is a new item, made from the first.
create table item (
  id          uuid primary key,
  piece_id    uuid not null references piece,
  part_id     uuid not null,
  kind        text not null check (kind in ('photo', 'picture', 'document', 'pdf', 'text', 'sound', 'film', 'other')),
  name        text not null check (name <> ''),
  media_type  text not null,
  size        bigint not null,
  sha256      bytea not null references blob,
  position    integer not null,
  -- What is known of it: width and height, pages, seconds.
  about       jsonb not null default '{}',
  -- The words of a document, so that marks can stand on them.
  doc         jsonb,
  made_from   uuid references item,
  added_at    timestamptz not null,
  -- Taken out of the unfinished work; a version that had it keeps it.
  removed_at  timestamptz
);
create index item_piece on item (piece_id, position);
create index item_blob on item (sha256);

create table version_item (
  version_id uuid not null references version,
  item_id    uuid not null references item,
  position   integer not null,
  primary key (version_id, item_id)
);
create index version_item_item on version_item (item_id);

-- What was made from a file: pages of an office document, a recording that can be wound, a still of a film.
create table rendition (
  source     bytea not null references blob,
  kind       text not null check (kind in ('pages', 'playable', 'still')),
  state      text not null default 'waiting' check (state in ('waiting', 'made', 'failed')),
  made       bytea references blob,
  about      jsonb not null default '{}',
  -- Why it could not be made, for people.
  reason     text,
  changed_at timestamptz not null,
  primary key (source, kind),
  check ((state = 'made') = (made is not null))
);

-- ---- work that is done in the background -------------------------------------------------------
create table job (
  id         bigint generated always as identity primary key,
  kind       text not null,
  payload    jsonb not null,
  -- The same work is not put in twice while it waits.
  key        text not null,
  attempts   integer not null default 0,
  run_at     timestamptz not null,
  -- Taken by a worker until then; one that died leaves it to the next.
  held_until timestamptz,
  -- It was tried often enough: the office sees it.
  dead_at    timestamptz,
  fault      text,
  created_at timestamptz not null
);
create unique index job_key on job (kind, key);
create index job_next on job (run_at) where dead_at is null;

-- ---- answers to questions ----------------------------------------------------------------------
alter table working_copy add column answers jsonb not null default '{}';
alter table version
  add column answers jsonb not null default '{}',
  -- When the student pressed "Hand in" by their device's clock, where that was without a connection.
  add column pressed_at timestamptz,
  -- The files as the receipt names them: name, size, SHA-256.
  add column files jsonb not null default '[]';

-- A try at a question whose answer is shown at once.
create table answer_try (
  piece_id    uuid not null references piece,
  part_id     uuid not null,
  question_id uuid not null,
  number      integer not null check (number >= 1),
  answer      jsonb not null,
  verdict     jsonb not null,
  tried_at    timestamptz not null,
  primary key (piece_id, part_id, question_id, number)
);

-- The teacher takes the device's word for when it was handed in; the newest word counts.
create table claim_accepted (
  version_id  uuid primary key references version,
  accepted_by uuid not null references person,
  accepted_at timestamptz not null
);

-- ---- checkpoints -------------------------------------------------------------------------------
create table checkpoint (
  id           uuid primary key,
  piece_id     uuid not null,
  round_number integer not null,
  number       integer not null check (number >= 1),
  doc          jsonb not null,
  text         text not null,
  words        integer not null,
  answers      jsonb not null,
  sent_at      timestamptz not null,
  foreign key (piece_id, round_number) references round (piece_id, number),
  unique (piece_id, number)
);
create table checkpoint_item (
  checkpoint_id uuid not null references checkpoint,
  item_id       uuid not null references item,
  position      integer not null,
  primary key (checkpoint_id, item_id)
);
create index checkpoint_item_item on checkpoint_item (item_id);
alter table message add column checkpoint_id uuid references checkpoint;

-- ---- pictures in a student's writing -----------------------------------------------------------
create table piece_picture (
  piece_id  uuid not null references piece,
  upload_id uuid not null references upload,
  primary key (piece_id, upload_id)
);
create index piece_picture_upload on piece_picture (upload_id);

-- What opens, is due or came back about now, for reminders.
create index hand_out_opens on hand_out (opens_at);
create index hand_out_due on hand_out (due_at);
create index piece_own_due on piece (own_due_at) where own_due_at is not null;
create index round_due on round (due_at) where due_at is not null;
create index hand_back_at on hand_back (handed_back_at);

-- ---- reminders and mail ------------------------------------------------------------------------
create table reminder_choice (
  person_id uuid not null references person,
  kind      text not null check (kind in ('handed out', 'due soon', 'handed back')),
  in_app    boolean not null,
  by_mail   boolean not null,
  primary key (person_id, kind)
);
create table reminder (
  id        uuid primary key,
  person_id uuid not null references person,
  piece_id  uuid not null references piece on delete cascade,
  kind      text not null check (kind in ('handed out', 'due soon', 'handed back')),
  -- What it is about, so that each thing is said once: the round, or the moment it is due.
  about     text not null,
  at        timestamptz not null,
  in_app    boolean not null,
  unique (piece_id, kind, about)
);
create index reminder_person on reminder (person_id, at desc);
create table visit (
  person_id uuid primary key references person,
  -- When they last looked at My work, and the time before that.
  at        timestamptz not null,
  before    timestamptz
);

-- The post room: every message as it goes out, MIME and all.
create table mail (
  id        uuid primary key,
  person_id uuid not null references person,
  address   text not null,
  subject   text not null,
  mime      bytea not null,
  made_at   timestamptz not null,
  -- By SMTP, where one is set; null: it stays in the post room.
  sent_at   timestamptz
);
create index mail_made on mail (made_at desc);

do $$
declare
  name text;
begin
  foreach name in array array['version_item', 'checkpoint', 'checkpoint_item', 'answer_try'] loop
    execute format('create trigger %I before update or delete on %I for each row execute function refuse_change()', name || '_append_only', name);
    execute format('create trigger %I before truncate on %I for each statement execute function refuse_change()', name || '_no_truncate', name);
  end loop;
end $$;

-- What an item holds stays: only its place, whether it is in the work, and what was read from it change.
create function refuse_item_change() returns trigger language plpgsql as $$
begin
  if tg_op = 'DELETE' or (new.id, new.piece_id, new.kind, new.name, new.sha256, new.size) is distinct from (old.id, old.piece_id, old.kind, old.name, old.sha256, old.size) then
    raise exception 'item is append-only' using errcode = 'integrity_constraint_violation';
  end if;
  return new;
end $$;
create trigger item_append_only before update or delete on item for each row execute function refuse_item_change();

-- As before, but without U+FE0F in the label: no font of ours has a glyph for it, and a browser would fetch them all to look.
create or replace function full_title(emoji text, number integer, title text) returns text language sql immutable as $$
  select concat(replace(emoji, chr(65039), '') || ' ', number || ' · ', title)
$$;

-- The view of the second migration with two changes: any kind of work is awaited, and a hand-in counts
-- from when it was pressed where a teacher has accepted that.
drop view piece_standing;
drop view every_piece;
alter table assignment drop constraint assignment_expects_check;
update assignment set expects = 'work' where expects = 'writing';
alter table assignment
  add constraint assignment_expects_check check (expects in ('work', 'nothing')),
  add constraint assignment_parts check ((expects = 'nothing') = (parts = '[]'));

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
    and newest.counted_at > coalesce(this_round.due_at, piece.own_due_at, hand_out.due_at) + make_interval(mins => hand_out.grace_minutes),
    false) as late,
  newest.counted_at,
  coalesce(revision.due_at, this_round.due_at, piece.own_due_at, hand_out.due_at) + make_interval(mins => hand_out.grace_minutes) as last_moment,
  piece.state in ('not_opened', 'started') and assignment.expects = 'work' and not piece.excused and piece.left_at is null as awaited,
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
  select
    version.handed_in_at, version.round_number,
    case when claim_accepted.version_id is null then version.handed_in_at else version.pressed_at end as counted_at
  from version
  left join claim_accepted on claim_accepted.version_id = version.id
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

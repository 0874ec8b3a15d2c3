-- The ground: a school, its people and classes, the life of pieces, and the record of what happened.
-- All instants are timestamptz (UTC); wall-clock days and times belong to the school's zone.
-- What must never be overwritten is append-only by trigger (see the end).

create table school (
  id        uuid primary key,
  name      text not null check (name <> ''),
  time_zone text not null
);

-- A zone PostgreSQL does not know would break every time shown, so it cannot be stored.
create function check_time_zone() returns trigger language plpgsql as $$
begin
  if not exists (select 1 from pg_timezone_names where name = new.time_zone) then
    raise check_violation using message = format('unknown time zone: %s', new.time_zone);
  end if;
  return new;
end $$;
create trigger school_time_zone before insert or update on school for each row execute function check_time_zone();

create table term (
  id        uuid primary key,
  school_id uuid not null references school,
  name      text not null,
  starts_on date not null,
  ends_on   date not null check (ends_on >= starts_on)
);
create index term_school on term (school_id, starts_on);

create table closure (
  id        uuid primary key,
  school_id uuid not null references school,
  name      text not null,
  starts_on date not null,
  ends_on   date not null check (ends_on >= starts_on)
);
create index closure_school on closure (school_id, starts_on);

create table person (
  id            uuid primary key,
  school_id     uuid not null references school,
  kind          text not null check (kind in ('teacher', 'student', 'guardian', 'office')),
  name          text not null check (name <> ''),
  -- What one calls the person: fills {name} in comments.
  called        text not null check (called <> ''),
  sort_name     text not null,
  email         text,
  school_name   text,
  password_hash text not null,
  check (email is not null or school_name is not null)
);
create unique index person_email on person (lower(email));
create unique index person_school_name on person (lower(school_name));
create index person_school on person (school_id, kind, sort_name);

create table guardianship (
  guardian_id uuid not null references person,
  student_id  uuid not null references person,
  primary key (guardian_id, student_id)
);
create index guardianship_student on guardianship (student_id);

create table course (
  id        uuid primary key,
  school_id uuid not null references school,
  term_id   uuid not null references term,
  name      text not null check (name <> '')
);
create index course_term on course (term_id);

create table section (
  id        uuid primary key,
  course_id uuid not null references course,
  name      text not null check (name <> ''),
  unique (course_id, name)
);

create table section_teacher (
  section_id    uuid not null references section,
  person_id     uuid not null references person,
  role          text not null check (role in ('owner', 'co-teacher')),
  -- Whether a co-teacher may hand back is the owner's choice; the owner always may.
  may_hand_back boolean not null default false check (role = 'co-teacher' or may_hand_back),
  primary key (section_id, person_id)
);
create unique index section_one_owner on section_teacher (section_id) where role = 'owner';
create index section_teacher_person on section_teacher (person_id);

create table enrolment (
  section_id uuid not null references section,
  student_id uuid not null references person,
  joined_on  date not null,
  left_on    date check (left_on >= joined_on),
  primary key (section_id, student_id)
);
create index enrolment_student on enrolment (student_id);

create table assignment (
  id              uuid primary key,
  course_id       uuid not null references course,
  title           text not null check (title <> ''),
  instructions    jsonb not null,
  expects         text not null check (expects in ('writing', 'nothing')),
  -- Null: not scored, words only.
  points_possible numeric(9, 3) check (points_possible > 0),
  may_take_back   boolean not null default true,
  created_by      uuid not null references person,
  created_at      timestamptz not null
);
create index assignment_course on assignment (course_id);

create table hand_out (
  id            uuid primary key,
  assignment_id uuid not null references assignment,
  section_id    uuid not null references section,
  opens_at      timestamptz not null,
  due_at        timestamptz not null check (due_at >= opens_at),
  closes_at     timestamptz check (closes_at >= due_at),
  promised_at   timestamptz check (promised_at >= due_at),
  grace_minutes integer not null default 0 check (grace_minutes between 0 and 1440),
  created_by    uuid not null references person,
  created_at    timestamptz not null,
  unique (assignment_id, section_id)
);
create index hand_out_section on hand_out (section_id, due_at);

create table piece (
  id          uuid primary key,
  hand_out_id uuid not null references hand_out,
  student_id  uuid not null references person,
  state       text not null default 'not_opened'
    check (state in ('not_opened', 'started', 'handed_in', 'handed_back', 'to_revise', 'reworking')),
  round       integer not null default 1 check (round >= 1),
  -- The student's own due time (an extension); null: the hand-out's.
  own_due_at  timestamptz,
  excused     boolean not null default false,
  opened_at   timestamptz,
  -- When the student last looked at what came back.
  seen_at     timestamptz,
  unique (hand_out_id, student_id),
  check (state <> 'reworking' or round >= 2),
  check (state not in ('not_opened', 'started') or round = 1)
);
create index piece_student on piece (student_id, hand_out_id);

-- A round is one cycle of hand in, feedback, hand back; the first is ruled by the hand-out's due time.
create table round (
  piece_id  uuid not null references piece,
  number    integer not null check (number >= 1),
  opened_at timestamptz not null,
  due_at    timestamptz check ((number = 1) = (due_at is null)),
  primary key (piece_id, number)
);

-- The student's unfinished writing: the one thing here that is overwritten, by the student alone.
create table working_copy (
  piece_id uuid primary key references piece,
  doc      jsonb not null,
  -- Rises by one with each saving; a saving that names an older one is a conflict.
  revision bigint not null check (revision >= 1),
  saved_at timestamptz not null
);

-- Everything ever handed in.
create table version (
  id           uuid primary key,
  piece_id     uuid not null,
  round_number integer not null,
  number       integer not null check (number >= 1),
  doc          jsonb not null,
  text         text not null,
  words        integer not null,
  -- SHA-256 of the document's canonical JSON, for the receipt.
  sha256       bytea not null check (octet_length(sha256) = 32),
  receipt      text not null unique,
  due_at       timestamptz not null,
  grace_minutes integer not null,
  handed_in_at timestamptz not null,
  foreign key (piece_id, round_number) references round (piece_id, number),
  unique (piece_id, number)
);
create index version_round on version (piece_id, round_number, number desc);

-- Feedback on one round: the teachers' draft. What students see is hand_back below, never this.
create table feedback (
  piece_id     uuid not null,
  round_number integer not null,
  overall      text not null default '',
  score_typed  text not null default '',
  points       numeric(9, 3),
  revision     bigint not null default 1,
  begun_by     uuid not null references person,
  changed_by   uuid not null references person,
  changed_at   timestamptz not null,
  primary key (piece_id, round_number),
  foreign key (piece_id, round_number) references round (piece_id, number)
);

create table comment (
  id           uuid primary key,
  owner_id     uuid not null references person,
  text         text not null check (text <> ''),
  shorthand    text check (shorthand <> ''),
  nature       text not null check (nature in ('remark', 'request')),
  favourite    smallint check (favourite between 1 and 9),
  used_count   integer not null default 0,
  last_used_at timestamptz,
  created_at   timestamptz not null,
  revision     bigint not null default 1,
  deleted_at   timestamptz
);
create unique index comment_shorthand on comment (owner_id, lower(shorthand)) where deleted_at is null;
create unique index comment_favourite on comment (owner_id, favourite) where deleted_at is null;

create table mark (
  id           uuid primary key,
  piece_id     uuid not null,
  round_number integer not null,
  version_id   uuid not null references version,
  kind         text not null check (kind in ('note', 'insert', 'delete', 'replace', 'tick', 'cross')),
  nature       text not null check (nature in ('remark', 'request')),
  -- Offsets in UTF-16 code units of the version's text; the quote is what stood there.
  start_at     integer not null check (start_at >= 0),
  end_at       integer not null check (end_at >= start_at),
  quote        text not null,
  body         text not null,
  replacement  text not null,
  comment_id   uuid references comment,
  -- A request asked again in a later round names the earlier one.
  again_of     uuid references mark,
  revision     bigint not null default 1,
  created_by   uuid not null references person,
  created_at   timestamptz not null,
  changed_at   timestamptz not null,
  deleted_at   timestamptz,
  foreign key (piece_id, round_number) references feedback (piece_id, round_number),
  check (kind <> 'note' or body <> ''),
  check (kind = 'insert' or end_at > start_at),
  check (nature = 'remark' or kind not in ('tick', 'cross'))
);
create index mark_round on mark (piece_id, round_number) where deleted_at is null;

-- A teacher's word on an earlier request, part of the draft of the round it is said in.
create table ruling (
  mark_id      uuid not null references mark,
  piece_id     uuid not null,
  round_number integer not null,
  ruling       text not null check (ruling in ('settled', 'again')),
  again_mark   uuid references mark,
  primary key (mark_id, round_number),
  foreign key (piece_id, round_number) references feedback (piece_id, round_number),
  check ((ruling = 'again') = (again_mark is not null))
);
create index ruling_piece on ruling (piece_id);

-- What was handed back, as it was at that moment. Students read this and nothing else.
create table hand_back (
  id             uuid primary key,
  piece_id       uuid not null,
  round_number   integer not null,
  number         integer not null check (number >= 1),
  outcome        text not null check (outcome in ('final', 'revise')),
  content        jsonb not null,
  next_due_at    timestamptz check ((outcome = 'revise') = (next_due_at is not null)),
  handed_back_by uuid not null references person,
  handed_back_at timestamptz not null,
  foreign key (piece_id, round_number) references round (piece_id, number),
  unique (piece_id, number)
);

create table hand_back_withdrawn (
  hand_back_id uuid primary key references hand_back,
  withdrawn_by uuid not null references person,
  withdrawn_at timestamptz not null
);

-- Every score that was handed back, the newest last; none replaces another.
create table score (
  id           uuid primary key,
  piece_id     uuid not null,
  round_number integer not null,
  hand_back_id uuid not null references hand_back,
  typed        text not null,
  points       numeric(9, 3) not null,
  possible     numeric(9, 3) not null,
  set_by       uuid not null references person,
  set_at       timestamptz not null,
  foreign key (piece_id, round_number) references round (piece_id, number)
);
create index score_piece on score (piece_id, set_at desc);

-- What the student did with a mark that was handed back.
create table answer (
  mark_id     uuid primary key references mark,
  piece_id    uuid not null references piece,
  request     text check (request in ('open', 'done')),
  decision    text check (decision in ('accepted', 'declined')),
  answered_at timestamptz not null
);
create index answer_piece on answer (piece_id);

create table message (
  id        uuid primary key,
  piece_id  uuid not null references piece,
  mark_id   uuid references mark,
  author_id uuid not null references person,
  body      text not null check (body <> ''),
  sent_at   timestamptz not null
);
create index message_piece on message (piece_id, sent_at);

-- A piece with what follows from its dates and other rows, for lists. The same rules as the core's
-- (core/pieces/life, core/time/lateness), which a test holds against each other.
create view piece_standing as
select
  piece.id, piece.hand_out_id, piece.student_id, piece.state, piece.round, piece.excused, piece.seen_at,
  hand_out.section_id, hand_out.opens_at, hand_out.closes_at, hand_out.promised_at, hand_out.grace_minutes,
  assignment.title, assignment.expects, assignment.points_possible,
  coalesce(revision.due_at, this_round.due_at, piece.own_due_at, hand_out.due_at) as due,
  newest.handed_in_at,
  newest.round_number as handed_in_round,
  coalesce(
    newest.round_number = piece.round
    and newest.handed_in_at > coalesce(this_round.due_at, piece.own_due_at, hand_out.due_at) + make_interval(mins => hand_out.grace_minutes),
    false) as late,
  coalesce(revision.due_at, this_round.due_at, piece.own_due_at, hand_out.due_at) + make_interval(mins => hand_out.grace_minutes) as last_moment,
  piece.state in ('not_opened', 'started') and assignment.expects = 'writing' and not piece.excused as awaited,
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

-- The record: every move with who and when.
create table event (
  id          bigint generated always as identity primary key,
  school_id   uuid not null references school,
  hand_out_id uuid references hand_out,
  piece_id    uuid references piece,
  actor_id    uuid not null references person,
  kind        text not null,
  detail      jsonb not null default '{}',
  at          timestamptz not null
);
create index event_piece on event (piece_id, id) where piece_id is not null;
create index event_hand_out on event (hand_out_id, id desc) where hand_out_id is not null;
create index event_school on event (school_id, id desc);

-- Files by their SHA-256, in chunks, so that a range is read without the rest.
create table blob (
  sha256     bytea primary key check (octet_length(sha256) = 32),
  size       bigint not null check (size >= 0),
  media_type text not null,
  created_at timestamptz not null
);
create table blob_chunk (
  sha256 bytea not null references blob,
  number integer not null check (number >= 0),
  bytes  bytea not null check (octet_length(bytes) between 1 and 262144),
  primary key (sha256, number)
);
alter table blob_chunk alter column bytes set storage external;

create table session (
  token_hash bytea primary key check (octet_length(token_hash) = 32),
  person_id  uuid not null references person,
  created_at timestamptz not null,
  seen_at    timestamptz not null
);
create index session_person on session (person_id);

create table sign_in_failure (
  id      bigint generated always as identity primary key,
  account text not null,
  address text not null,
  at      timestamptz not null
);
create index sign_in_failure_account on sign_in_failure (account, at);
create index sign_in_failure_address on sign_in_failure (address, at);

-- The answer to a change that was asked for once, kept so that asking again changes nothing.
create table idempotency (
  person_id    uuid not null references person,
  key          text not null check (length(key) between 8 and 200),
  request_hash bytea not null,
  status       integer,
  -- json, not jsonb: the first answer is given again to the letter.
  body         json,
  created_at   timestamptz not null,
  primary key (person_id, key)
);
create index idempotency_age on idempotency (created_at);

create function refuse_change() returns trigger language plpgsql as $$
begin
  raise exception '% is append-only', tg_table_name using errcode = 'integrity_constraint_violation';
end $$;

do $$
declare
  name text;
begin
  foreach name in array array['version', 'hand_back', 'hand_back_withdrawn', 'score', 'message', 'event', 'blob', 'blob_chunk'] loop
    execute format('create trigger %I before update or delete on %I for each row execute function refuse_change()', name || '_append_only', name);
    execute format('create trigger %I before truncate on %I for each statement execute function refuse_change()', name || '_no_truncate', name);
  end loop;
end $$;

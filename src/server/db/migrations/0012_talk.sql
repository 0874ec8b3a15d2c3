-- Talk: threads that are closed, letters to students and guardians with the answers that come back, quiet hours.

-- A teacher closed the thread of a piece: nothing waits in it, and its student writes in it no more until it is opened.
alter table piece
  add column thread_closed_at timestamptz,
  add column thread_closed_by uuid references person,
  add constraint piece_thread_closed check ((thread_closed_at is null) = (thread_closed_by is null));

-- No mail goes out in these hours of the school's clock; both null: at any time. They can go over midnight.
alter table school
  add column quiet_from  text check (quiet_from ~ '^([01]\d|2[0-3]):[0-5]\d$'),
  add column quiet_until text check (quiet_until ~ '^([01]\d|2[0-3]):[0-5]\d$'),
  add constraint school_quiet check ((quiet_from is null) = (quiet_until is null));
alter table mail add column goes_at timestamptz;

-- Why a score that was handed back is another now; for the section's teachers.
alter table score add column reason text not null default '';

-- What an act says of the rounds it opens: how many there will be (null: as many as are needed), and of which parts.
alter table hand_back_batch
  add column more_rounds integer check (more_rounds between 1 and 9),
  add column asked_parts jsonb not null default '[]';

-- A teacher's letter to students of a section, or to their guardians.
create table letter (
  id          uuid primary key,
  section_id  uuid not null references section,
  hand_out_id uuid references hand_out,
  author_id   uuid not null references person,
  subject     text not null check (subject <> '' and length(subject) <= 200),
  body        text not null check (body <> '' and length(body) <= 8000),
  written_at  timestamptz not null,
  -- When it is there for those it is to: at once, or when the quiet hours end.
  goes_at     timestamptz not null
);
create index letter_section on letter (section_id, written_at desc);
create index letter_author on letter (author_id, written_at desc);

create table letter_to (
  id         uuid primary key,
  letter_id  uuid not null references letter,
  -- To whom, and about whom: a student gets their own, a guardian one for each child.
  person_id  uuid not null references person,
  student_id uuid not null references person,
  -- What stands in the address that an answer by mail comes back to.
  code       text not null unique,
  body       text not null,
  mail_id    uuid references mail,
  read_at    timestamptz,
  unique (letter_id, person_id, student_id)
);
create index letter_to_person on letter_to (person_id, letter_id);
create index letter_to_student on letter_to (student_id, letter_id);

create table letter_answer (
  id           uuid primary key,
  letter_to_id uuid not null references letter_to,
  author_id    uuid not null references person,
  body         text not null check (body <> '' and length(body) <= 8000),
  by_mail      boolean not null default false,
  said_at      timestamptz not null,
  -- When the other side read it.
  read_at      timestamptz
);
create index letter_answer_to on letter_answer (letter_to_id, said_at);
create index letter_answer_unread on letter_answer (letter_to_id) where read_at is null;

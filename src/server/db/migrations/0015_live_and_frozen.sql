-- What moved, told to whoever listens ("moved", with the section): pages that are open ask again. One word for each
-- section that a statement touched; PostgreSQL itself says the same word only once in a transaction.
create function tell_pieces_moved() returns trigger language plpgsql as $$
begin
  perform pg_notify('moved', section_id::text)
  from (select distinct hand_out.section_id from touched join hand_out on hand_out.id = touched.hand_out_id) sections;
  return null;
end $$;
create function tell_words_moved() returns trigger language plpgsql as $$
begin
  perform pg_notify('moved', section_id::text)
  from (
    select distinct hand_out.section_id
    from touched
    join piece on piece.id = touched.piece_id
    join hand_out on hand_out.id = piece.hand_out_id
  ) sections;
  return null;
end $$;
create trigger piece_given after insert on piece
  referencing new table as touched for each statement execute function tell_pieces_moved();
create trigger piece_moved after update on piece
  referencing new table as touched for each statement execute function tell_pieces_moved();
create trigger section_note_said after insert on section_note
  referencing new table as touched for each statement execute function tell_pieces_moved();
create trigger section_note_moved after update on section_note
  referencing new table as touched for each statement execute function tell_pieces_moved();
create trigger message_said after insert on message
  referencing new table as touched for each statement execute function tell_words_moved();
create trigger checkpoint_sent after insert on checkpoint
  referencing new table as touched for each statement execute function tell_words_moved();
create trigger feedback_begun after insert on feedback
  referencing new table as touched for each statement execute function tell_words_moved();

-- The grades of a section as they stood when its term was closed, of what students had been told: shown since then. Changes of scores move
-- them no more; a grade is corrected by a further row with its reason. Opened again, the freeze stays in the history.
create table grade_freeze (
  id            uuid primary key,
  section_id    uuid not null references section,
  term_id       uuid not null references term,
  frozen_by     uuid not null references person,
  frozen_at     timestamptz not null,
  opened_by     uuid references person,
  opened_at     timestamptz,
  opened_reason text check (length(opened_reason) between 1 and 1000),
  check ((opened_at is null) = (opened_by is null) and (opened_at is null) = (opened_reason is null))
);
create unique index grade_freeze_in_force on grade_freeze (section_id, term_id) where opened_at is null;
create index grade_freeze_section on grade_freeze (section_id, frozen_at);

create table frozen_grade (
  freeze_id  uuid not null references grade_freeze,
  student_id uuid not null references person,
  number     integer not null check (number >= 1),
  -- The grade with all that it is made of, as it was computed then.
  sum        jsonb not null,
  reason     text check (length(reason) between 1 and 1000),
  set_by     uuid not null references person,
  set_at     timestamptz not null,
  primary key (freeze_id, student_id, number),
  check (number = 1 or reason is not null)
);

-- How a teacher has laid out a section's Ledger: columns hidden, their order, how they are grouped.
create table ledger_layout (
  section_id uuid not null references section,
  person_id  uuid not null references person,
  layout     jsonb not null,
  primary key (section_id, person_id)
);

-- When a teacher means to read in a week, by the clock of the school; none: what is free between their lessons.
create table reading_time (
  person_id uuid not null references person,
  weekday   smallint not null check (weekday between 1 and 7),
  starts    text not null check (starts ~ '^\d\d:\d\d$'),
  ends      text not null check (ends ~ '^\d\d:\d\d$' and ends > starts),
  primary key (person_id, weekday, starts)
);

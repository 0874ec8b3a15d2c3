-- Words to all the students of one hand-out, and what they answer to the class.
create table section_note (
  id          uuid primary key,
  hand_out_id uuid not null references hand_out,
  -- The note that this answers; null: a teacher's note to all.
  answers_id  uuid references section_note,
  author_id   uuid not null references person,
  body        text not null check (length(body) <= 4000),
  clip_id     uuid references clip,
  said_at     timestamptz not null,
  -- Since when the class may see it; null: an answer that no teacher has let through.
  shown_at    timestamptz,
  shown_by    uuid references person,
  -- Taken away, by whom; the row stays.
  taken_at    timestamptz,
  taken_by    uuid references person,
  check (body <> '' or clip_id is not null),
  check ((shown_at is null) = (shown_by is null)),
  check ((taken_at is null) = (taken_by is null)),
  check (answers_id is not null or shown_at is not null)
);
create index section_note_hand_out on section_note (hand_out_id, said_at);
create index section_note_clip on section_note (clip_id) where clip_id is not null;

-- Whether students answer to the class: not at all, once a teacher has read it, or at once.
alter table section
  add column class_answers text not null default 'read first' check (class_answers in ('none', 'read first', 'at once'));

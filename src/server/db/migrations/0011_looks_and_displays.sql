-- Work that is shown to others for a time: a look before handing in, and a display of what is handed in. Who sees
-- what until when is asked of these tables alone (server/access/shown).

-- A teacher lets the students of a hand-out see each other's handed-in work.
create table display (
  hand_out_id    uuid primary key references hand_out,
  shows          text not null check (shows in ('all', 'chosen')),
  -- Whether classmates see whose it is, and who says what of it.
  named          boolean not null,
  -- Whether what students say waits until a teacher has read it.
  read_first     boolean not null,
  -- Whether only those see it who have handed in themselves.
  only_handed_in boolean not null,
  opened_by      uuid not null references person,
  opened_at      timestamptz not null,
  closes_at      timestamptz not null check (closes_at > opened_at),
  -- Closed before its time.
  closed_at      timestamptz
);
create table display_piece (
  hand_out_id uuid not null references display,
  piece_id    uuid not null references piece,
  primary key (hand_out_id, piece_id)
);
create index display_piece_piece on display_piece (piece_id);

-- How the students of a hand-out may ask each other for a look before they hand in.
create table look_rule (
  hand_out_id uuid primary key references hand_out,
  readers     text not null check (readers in ('all', 'group', 'pairs')),
  named       boolean not null,
  read_first  boolean not null,
  set_by      uuid not null references person,
  set_at      timestamptz not null,
  ends_at     timestamptz not null check (ends_at > set_at),
  ended_at    timestamptz
);
-- Who reads whose, where the program drew it: each piece has one reader, and each reader one piece.
create table look_pair (
  hand_out_id uuid not null references look_rule,
  piece_id    uuid primary key references piece,
  reader_id   uuid not null references person,
  unique (hand_out_id, reader_id)
);

-- A student's question about the work so far, with the checkpoint it is about.
create table look (
  id            uuid primary key,
  piece_id      uuid not null references piece,
  checkpoint_id uuid not null references checkpoint,
  -- A classmate; null: the section's teachers.
  reader_id     uuid references person,
  question      text not null check (question <> '' and length(question) <= 2000),
  -- The words it is about, in the checkpoint's text; null: about the whole.
  start_at      integer,
  end_at        integer,
  named         boolean not null,
  asked_at      timestamptz not null,
  ends_at       timestamptz not null,
  -- The reader says that they are through.
  done_at       timestamptz,
  -- The writer or a teacher ended it.
  closed_at     timestamptz,
  check ((start_at is null) = (end_at is null)),
  check (start_at is null or (start_at >= 0 and end_at > start_at))
);
create index look_piece on look (piece_id);
create index look_reader on look (reader_id, ends_at) where closed_at is null;
create index look_checkpoint on look (checkpoint_id);

-- What someone who was shown work said of it: on its words, or on the whole. What is taken away keeps its row.
create table look_mark (
  id          uuid primary key,
  piece_id    uuid not null references piece,
  -- In a look, on its checkpoint; or in a display, on the version that was shown.
  look_id     uuid references look,
  version_id  uuid references version,
  author_id   uuid not null references person,
  kind        text not null check (kind in ('note', 'insert', 'delete', 'replace')),
  start_at    integer not null default 0,
  end_at      integer not null default 0,
  quote       text not null default '',
  body        text not null default '' check (length(body) <= 4000),
  replacement text not null default '' check (length(replacement) <= 2000),
  place       jsonb,
  clip_id     uuid references clip,
  said_at     timestamptz not null,
  -- Since when others see it; null: it waits for a teacher.
  shown_at    timestamptz,
  taken_at    timestamptz,
  taken_by    uuid references person,
  reported_at timestamptz,
  reported_by uuid references person,
  report_why  text not null default '',
  -- What the writer did with an edit.
  decision    text check (decision in ('accepted', 'declined')),
  check ((look_id is null) <> (version_id is null)),
  check ((taken_at is null) = (taken_by is null)),
  check ((reported_at is null) = (reported_by is null))
);
create index look_mark_piece on look_mark (piece_id, said_at);
create index look_mark_clip on look_mark (clip_id) where clip_id is not null;
-- What waits for a teacher is little, whatever was ever said.
create index look_mark_waits on look_mark (piece_id) where taken_at is null and (shown_at is null or reported_at is not null);

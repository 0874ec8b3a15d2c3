-- Voice: clips on marks, in threads, in the bank and beside instructions; their transcripts; reading aloud.

-- What was recorded, once for the same bytes, and what was made of it. Not a blob: voice goes when nothing holds it.
create table sound (
  sha256      bytea primary key check (octet_length(sha256) = 32),
  media_type  text not null,
  raw         bytea not null,
  state       text not null default 'waiting' check (state in ('waiting', 'made', 'failed')),
  -- Why it could not be made, for people.
  reason      text,
  -- Levelled (EBU R 128), with its duration and an index to wind by.
  made        bytea,
  seconds     real not null,
  loudness    real,
  -- Heights of the waveform, from 0 to 100.
  peaks       jsonb,
  -- What the recogniser heard: [{word, start, end, sure}], times in seconds of what was made.
  heard_state text not null default 'waiting' check (heard_state in ('waiting', 'made', 'none')),
  heard_reason text,
  -- How far it is, from 0 to 1.
  heard_part  real not null default 0,
  heard       jsonb,
  changed_at  timestamptz not null,
  check ((state = 'made') = (made is not null)),
  check ((heard_state = 'made') = (heard is not null))
);
-- Bytes are read by range, which compressed ones could not be.
alter table sound alter column raw set storage external, alter column made set storage external;

-- One use of a sound. With a piece it is for those of the piece; without one it is its maker's own, for the
-- comments and tasks that name it.
create table clip (
  id         uuid primary key,
  sha256     bytea not null references sound,
  piece_id   uuid references piece,
  made_by    uuid not null references person,
  made_at    timestamptz not null,
  -- What stands beside the player: the transcript, a short title, or nothing.
  shows      text not null default 'words' check (shows in ('words', 'title', 'nothing')),
  title      text not null default '' check (length(title) <= 120),
  -- The transcript as a person corrected it; null: as the program made it.
  words      jsonb,
  checked_by uuid references person,
  revision   bigint not null default 1,
  check (shows <> 'title' or title <> ''),
  check ((words is null) = (checked_by is null))
);
create index clip_sound on clip (sha256);
create index clip_piece on clip (piece_id);
create index clip_maker on clip (made_by, made_at desc);

create table clip_heard (
  clip_id   uuid not null references clip on delete cascade,
  person_id uuid not null references person,
  heard_at  timestamptz not null,
  primary key (clip_id, person_id)
);

alter table mark
  drop constraint mark_check1,
  add column clip_id uuid references clip,
  add constraint mark_says_something check (kind <> 'note' or body <> '' or clip_id is not null or place->>'on' = 'time' and strokes <> '[]');
create index mark_clip on mark (clip_id) where clip_id is not null;

alter table message
  drop constraint message_body_check,
  add column clip_id uuid references clip,
  add constraint message_says_something check (body <> '' or clip_id is not null);
create index message_clip on message (clip_id) where clip_id is not null;

alter table comment add column clip_id uuid references clip;
create index comment_clip on comment (clip_id) where clip_id is not null;

-- The instructions as the teacher speaks them.
alter table assignment add column clip_id uuid references clip;
create index assignment_clip on assignment (clip_id) where clip_id is not null;

-- ---- how long one may speak, and who is read to -----------------------------------------------
alter table section
  add column voice_seconds integer not null default 60 check (voice_seconds between 10 and 300),
  add column reply_seconds integer not null default 60 check (reply_seconds between 10 and 300);
alter table enrolment add column read_aloud boolean not null default false;

alter table person_setting
  drop constraint person_setting_name_check,
  add constraint person_setting_name check (name in ('desk.keys', 'desk.stamps', 'desk.order', 'desk.place', 'aloud'));

-- Texts that were read aloud, kept by their words and voice so that each is spoken once.
create table aloud (
  key     bytea primary key check (octet_length(key) = 32),
  bytes   bytea not null,
  made_at timestamptz not null
);
alter table aloud alter column bytes set storage external;

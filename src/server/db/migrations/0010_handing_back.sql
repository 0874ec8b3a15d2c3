-- Handing back many at once, now or at a time; scores that come later; and a draft that says what will happen to its
-- piece.
alter table feedback
  -- What the draft says will happen to its piece; null: nothing is said, the act of handing back says it.
  add column outcome text check (outcome in ('final', 'revise', 'keep')),
  add column next_due_at timestamptz,
  add constraint feedback_due_of_revision check (next_due_at is null or outcome = 'revise');

-- One act of handing back: some pieces, at a time. Each piece goes in a transaction of its own.
create table hand_back_batch (
  id             uuid primary key,
  made_by        uuid not null references person,
  made_at        timestamptz not null,
  goes_at        timestamptz not null,
  -- 'draft': each as its draft says.
  outcome        text not null check (outcome in ('final', 'revise', 'draft')),
  -- For those that go back to revise and whose draft names no time of its own.
  next_due_at    timestamptz,
  message        text not null default '',
  scores         text not null check (scores in ('now', 'all', 'date')),
  -- Whether a round that only asks for revision tells its score.
  tell_score     boolean not null default false,
  scores_at      timestamptz check ((scores = 'date') = (scores_at is not null)),
  called_back_at timestamptz,
  done_at        timestamptz
);
create index hand_back_batch_to_come on hand_back_batch (made_by, goes_at)
  where done_at is null and called_back_at is null;

create table hand_back_batch_piece (
  batch_id     uuid not null references hand_back_batch,
  piece_id     uuid not null references piece,
  number       integer not null,
  waits        boolean not null default true,
  hand_back_id uuid references hand_back,
  -- Why it stayed; a sentence for the teacher.
  left_why     text,
  primary key (batch_id, piece_id),
  check (not waits or (hand_back_id is null and left_why is null))
);
-- A piece waits in one act at most.
create unique index hand_back_batch_piece_waits on hand_back_batch_piece (piece_id) where waits;
create index hand_back_batch_piece_piece on hand_back_batch_piece (piece_id);
create index hand_back_batch_piece_order on hand_back_batch_piece (batch_id, number) where waits;

-- Handed back without its score, which comes later: what will be said then. The student's queries never read this.
create table withheld_score (
  hand_back_id uuid primary key references hand_back,
  -- Null: when all that is in has gone back.
  comes_at     timestamptz,
  content      jsonb not null,
  come_at      timestamptz
);
create index withheld_score_to_come on withheld_score (hand_back_id) where come_at is null;

-- Files that go back with the feedback of a round: a marked copy made elsewhere, an article. Part of the draft until
-- it is handed back, and then of what was.
create table feedback_file (
  piece_id     uuid not null,
  round_number integer not null,
  upload_id    uuid not null references upload,
  added_by     uuid not null references person,
  added_at     timestamptz not null,
  primary key (piece_id, round_number, upload_id),
  foreign key (piece_id, round_number) references feedback (piece_id, round_number)
);
create index feedback_file_upload on feedback_file (upload_id);

-- "What did you change?", in the student's own words, with a hand-in of a further round.
alter table version add column changes text not null default '';

alter table person_setting
  drop constraint person_setting_name,
  add constraint person_setting_name check (
    name in ('desk.keys', 'desk.stamps', 'desk.order', 'desk.place', 'desk.hold', 'aloud')
  );

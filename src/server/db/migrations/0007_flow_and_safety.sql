-- Nobody holds up anybody: what is asked of every open Desk has its index, work in the background knows whose it is.

-- The stamp that every open Desk reads asks for the last change of a piece's marks.
create index mark_piece on mark (piece_id) include (revision);

-- One running job a person; quick ones (a voice) before slow ones (a film).
alter table job
  add column owner_id uuid,
  add column rank smallint not null default 5;
drop index job_next;
create index job_next on job (rank, run_at) where dead_at is null;
create index job_owner on job (owner_id) where dead_at is null;

-- An upload that is begun anew under its id is not the one that was looked into.
alter table transfer add column looked_id uuid;

-- Which word is which between two texts, and what changed for people to read: worked out once, and again when it is gone.
create table compared (
  -- Over both texts, and the way they were compared.
  key        bytea primary key,
  to_after   bytea not null,
  comparison jsonb not null,
  made_at    timestamptz not null default now()
);
create index compared_age on compared (made_at);

-- Lists count requests; they do not read what was handed back, ink and all.
alter table hand_back
  add column requests jsonb not null generated always as
    (coalesce(jsonb_path_query_array(content -> 'marks', '$[*] ? (@.nature == "request").id'), '[]')) stored,
  add column said jsonb not null generated always as (content - 'marks' - 'rubric') stored;

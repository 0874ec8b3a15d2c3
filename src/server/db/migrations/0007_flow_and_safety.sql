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

-- ---- signing in --------------------------------------------------------------------------------
-- A password that was given by someone else is to be changed before anything else.
alter table person add column must_change boolean not null default false;

-- Where someone is signed in, for themselves to look at and to end.
alter table session
  add column id uuid not null default gen_random_uuid(),
  add column about text not null default '';
create unique index session_id on session (id);

-- A browser that has signed in as someone before is not held up by what others try on the account.
create table device (
  token_hash bytea primary key check (octet_length(token_hash) = 32),
  person_id  uuid not null references person,
  seen_at    timestamptz not null
);
create index device_person on device (person_id);

-- Null: from a browser that is not known.
alter table sign_in_failure add column device bytea;
drop index sign_in_failure_account;
drop index sign_in_failure_address;
create index sign_in_failure_pair on sign_in_failure (account, address, at);
create index sign_in_failure_address on sign_in_failure (address, at) where device is null;
create index sign_in_failure_device on sign_in_failure (device, at) where device is not null;

-- ---- names hidden ------------------------------------------------------------------------------
-- The name of a piece on pages that show its student's name, while the Desk shows the piece without one: from neither
-- does one get to the other.
alter table piece add column by_name uuid not null default gen_random_uuid();
create unique index piece_by_name on piece (by_name);

-- ---- what nothing holds any more goes ------------------------------------------------------------
-- A stored file still never changes; but one that nothing names (every table that does has a foreign key) may go.
drop trigger blob_append_only on blob;
drop trigger blob_chunk_append_only on blob_chunk;
create trigger blob_append_only before update on blob for each row execute function refuse_change();
create trigger blob_chunk_append_only before update on blob_chunk for each row execute function refuse_change();
-- A file that was taken out of unfinished work may go; one that a version or a checkpoint has is held by its key.
create function refuse_item_deletion() returns trigger language plpgsql as $$
begin
  if old.removed_at is null then
    raise exception 'item is append-only' using errcode = 'integrity_constraint_violation';
  end if;
  return old;
end $$;
drop trigger item_append_only on item;
create trigger item_append_only before update on item for each row execute function refuse_item_change();
create trigger item_deletion before delete on item for each row execute function refuse_item_deletion();
create index item_removed on item (removed_at) where removed_at is not null;
create index upload_blob on upload (sha256);
create index rendition_made on rendition (made);

-- Work that is over files itself away, also where it never closes, and can be brought back.
--
-- It was worked out from the closing time alone, in every list anew, and so hid pieces that waited for their teacher.
-- Now a sweep notes it, when nothing waits and the last thing that happened is so many days ago; and whatever
-- happens to a piece afterwards brings the work back by itself.
alter table hand_out
  add column put_away_at timestamptz,
  -- Since when the days are counted anew: a teacher brought it back, or changed it.
  add column kept_since timestamptz;

update hand_out set put_away_at = now() where is_archived(closes_at, archive_days, now());
drop function is_archived(timestamptz, integer, timestamptz);

-- What the sweep looks through: the few that are still on the lists.
create index hand_out_on_lists on hand_out (due_at) where put_away_at is null;

create function bring_work_back() returns trigger language plpgsql as $$
begin
  update hand_out
  set put_away_at = null
  from piece
  where piece.id = coalesce(to_jsonb(new)->>'piece_id', to_jsonb(new)->>'id')::uuid
    and hand_out.id = piece.hand_out_id and hand_out.put_away_at is not null;
  return null;
end
$$;

create trigger piece_brings_work_back after update of state, own_due_at on piece
  for each row when (new.state is distinct from old.state or new.own_due_at is distinct from old.own_due_at)
  execute function bring_work_back();
create trigger message_brings_work_back after insert on message
  for each row when (new.piece_id is not null) execute function bring_work_back();

-- A teacher alone keeps their own school: what an office does elsewhere is theirs to do.
alter table school add column kept_by uuid references person;

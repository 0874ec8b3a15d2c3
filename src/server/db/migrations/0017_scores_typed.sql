-- Every score as it was typed into a draft, from wherever: the Desk, the Ledger, a table brought back, a rubric's sum.
-- What was handed back stands in score.
create table score_typed (
  id           bigint generated always as identity primary key,
  piece_id     uuid not null,
  round_number integer not null,
  -- Empty: taken away.
  typed        text not null,
  typed_by     uuid not null references person,
  typed_at     timestamptz not null,
  foreign key (piece_id, round_number) references round (piece_id, number)
);
create index score_typed_piece on score_typed (piece_id, id);

create function keep_typed_score() returns trigger language plpgsql as $$
begin
  insert into score_typed (piece_id, round_number, typed, typed_by, typed_at)
  values (new.piece_id, new.round_number, new.score_typed, new.changed_by, new.changed_at);
  return null;
end $$;
create trigger feedback_score_begun after insert on feedback
  for each row when (new.score_typed <> '') execute function keep_typed_score();
create trigger feedback_score_typed after update of score_typed on feedback
  for each row when (new.score_typed is distinct from old.score_typed) execute function keep_typed_score();

-- What stands in drafts now is where their history begins.
insert into score_typed (piece_id, round_number, typed, typed_by, typed_at)
select piece_id, round_number, score_typed, changed_by, changed_at from feedback where score_typed <> ''
order by changed_at;

create trigger score_typed_append_only before update or delete on score_typed
  for each row execute function refuse_change();

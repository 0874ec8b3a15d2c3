-- The Ledger is typed in: late and missing can be said of a piece, as of work on paper, where no date says it.
alter table piece
  drop constraint piece_flag_check,
  add constraint piece_flag_check check (flag in ('late', 'missing', 'away', 'unfinished', 'on paper'));

-- When students see the scores of a column for work off the screen: when a teacher hands them back, some minutes after they were typed, from
-- a date on, or never; what is new in a category begins as the category says.
alter table category
  add column shows text not null default 'by hand' check (shows in ('by hand', 'typed', 'never'));
alter table hand_out
  add column shows      text not null default 'by hand' check (shows in ('by hand', 'typed', 'date', 'never')),
  add column shows_from timestamptz,
  -- In whose name scores go.
  add column shows_by   uuid references person,
  add constraint hand_out_shows_from check ((shows = 'date') = (shows_from is not null)),
  add constraint hand_out_shows_by check (shows in ('by hand', 'never') or shows_by is not null);
-- What the dates call late, a teacher can call on time.
alter table piece
  drop constraint piece_flag_check,
  add constraint piece_flag_check check (flag in ('late', 'on time', 'missing', 'away', 'unfinished', 'on paper'));
create index hand_out_shows_by_itself on hand_out (id) where shows in ('typed', 'date');

-- The week sheet by mail: who wants none, and of which week (its Monday) it was said last.
create table week_mail (
  person_id uuid primary key references person,
  off       boolean not null default false,
  said_of   date
);

-- Scales of the school: names for percents with their rounding, which a section takes as its own.
alter table school add column grade_scales jsonb not null default '[]';

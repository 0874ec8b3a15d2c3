-- ---- files in a thread -------------------------------------------------------------------------
create table message_file (
  message_id uuid not null references message,
  upload_id  uuid not null references upload,
  primary key (message_id, upload_id)
);
create index message_file_upload on message_file (upload_id);
-- A message can be a file alone.
alter table message
  add column with_files boolean not null default false,
  drop constraint message_says_something,
  add constraint message_says_something check (body <> '' or clip_id is not null or with_files);

-- ---- what was said to the class can be reported ------------------------------------------------
alter table section_note
  add column reported_at timestamptz,
  add column reported_by uuid references person,
  add column report_why text not null default '',
  add constraint section_note_reported check ((reported_at is null) = (reported_by is null));

-- ---- grades ------------------------------------------------------------------------------------
-- How a section's grade comes about (core/grades/rules); what is absent is as usual.
alter table section add column grade_rules jsonb not null default '{}';
alter table category add column drop_lowest integer not null default 0 check (drop_lowest between 0 and 20);

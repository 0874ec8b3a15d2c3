-- What is handed in again as it was is kept once: the later version says which earlier one it is the same as.
alter table version
  alter column doc drop not null,
  alter column text drop not null,
  alter column answers drop not null,
  alter column answers drop default,
  add column same_as uuid references version,
  add constraint version_held_once check (num_nulls(doc, text, answers) = case when same_as is null then 0 else 3 end);

-- Two students of one name are looked for wherever a name stands.
create index person_same_name on person (school_id, name);

-- Names with numbers in them in the order in which people count: 2 before 10.
create collation by_number (provider = icu, locale = 'en-u-kn-true');
alter table person alter column sort_name type text collate by_number;
alter table section alter column name type text collate by_number;

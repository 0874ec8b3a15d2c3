-- A student's name as it stands in lists and headings: where another student of one of their sections has the same, with
-- what they sign in by behind it, so that two can be told apart; else the name alone. Indexes: person_same_name, enrolment's
-- keys.
create or replace function shown_name(who person) returns text language sql stable as $$
  select who.name || case
    when exists (
      select
      from person other
      join enrolment theirs on theirs.student_id = other.id
      join enrolment mine on mine.section_id = theirs.section_id and mine.student_id = who.id
      where other.school_id = who.school_id and other.name = who.name and other.kind = 'student' and other.id <> who.id
    ) then ' (' || coalesce(who.school_name, who.email) || ')'
    else ''
  end
$$;

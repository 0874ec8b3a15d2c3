-- A sound, a film or a PDF that stands in the writing itself: it is out of the work while the text does not name it.
alter table item
  add column in_text boolean not null default false;

-- The ink a teacher gave a note of their own choice; null: as notes of its kind have it.
alter table mark
  add column ink text check (ink in ('black', 'tide', 'ember', 'moss', 'plum'));

-- The screens that were explained to a teacher.
alter table person_setting
  drop constraint person_setting_name,
  add constraint person_setting_name check (
    name in (
      'desk.keys', 'desk.stamps', 'desk.order', 'desk.place', 'desk.hold', 'desk.strip', 'desk.margin', 'letters', 'aloud',
      'guides'
    )
  );

-- The language in which a person reads what is said in more than one.
alter table person
  add column language text not null default 'en' check (language in ('en', 'fr'));

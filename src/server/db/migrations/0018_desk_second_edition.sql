-- How a person's own Desk stands (its strip, the width of its margin), and what single letters do as keys.
alter table person_setting
  drop constraint person_setting_name,
  add constraint person_setting_name check (
    name in (
      'desk.keys', 'desk.stamps', 'desk.order', 'desk.place', 'desk.hold', 'desk.strip', 'desk.margin', 'letters', 'aloud'
    )
  );

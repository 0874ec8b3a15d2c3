-- What each version holds, wherever it is kept: a version that is the same as an earlier one of its piece has it there.
drop view if exists version_content;

create view version_content as
select version.id, version.piece_id, version.round_number, version.number, held.doc, held.text, held.answers
from version
join version held on held.id = coalesce(version.same_as, version.id);

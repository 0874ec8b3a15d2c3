import type postgres from "postgres";

/** Every screen of the demo school, as whom it is looked at. Names in braces are ids of `idsOf`. */
export const SCREENS: [as: string, path: string][] = [
  ["teacher", "/today"],
  ["teacher", "/today/plan"],
  ["teacher", "/today/list"],
  ["teacher", "/desk?pile=all&handOut={letter}&piece={done}"],
  ["teacher", "/desk?pile=again&piece={again}"],
  ["teacher", "/sections"],
  ["teacher", "/sections/{section}"],
  ["teacher", "/sections/{section}/set-up"],
  ["teacher", "/hand-out?section={section}"],
  ["teacher", "/hand-outs/{letter}/change"],
  ["teacher", "/calendar"],
  ["teacher", "/calendar?view=term"],
  ["teacher", "/hand-outs/{letter}"],
  ["teacher", "/hand-outs/{said}"],
  ["teacher", "/hand-back?handOut={drafts}"],
  ["teacher", "/hand-back?act={act}&handOut={drafts}"],
  ["teacher", "/students/{doneStudent}"],
  ["teacher", "/ledger/{section}"],
  ["teacher", "/ledger/{section}?beside={beside}"],
  ["teacher", "/ledger/{section}/grades/{doneStudent}"],
  ["doneStudent", "/grades"],
  ["guardian", "/grades"],
  ["teacher", "/shelf"],
  ["teacher", "/shelf/comments"],
  ["teacher", "/shelf/rubrics"],
  ["teacher", "/shelf/files"],
  ["teacher", "/shelf/questions"],
  ["teacher", "/displays/{display}"],
  ["teacher", "/displays/{display}?piece={displayed}"],
  ["displayedStudent", "/displays/{display}"],
  ["displayedStudent", "/displays/{display}?piece={displayed}"],
  ["lookStudent", "/looks/{look}"],
  ["lookStudent", "/work"],
  ["teacher", "/letters"],
  ["teacher", "/questions"],
  ["guardian", "/letters"],
  ["teacher", "/receipts"],
  ["teacher", "/account"],
  ["doneStudent", "/account"],
  ["teacher", "/desk?pile=all&piece={tide}"],
  ["teacher", "/desk?pile=all&piece={clouds}"],
  ["teacher", "/desk?pile=all&piece={report}"],
  ["teacher", "/desk?pile=all&piece={poster}"],
  ["teacher", "/desk/criterion?handOut={letter}"],
  ["teacher", "/desk/answers?handOut={asked}"],
  ["spokenStudent", "/work/{spoken}"],
  ["tideStudent", "/work/{tide}"],
  ["cloudsStudent", "/work/{clouds}"],
  ["posterStudent", "/work/{poster}"],
  ["posterStudent", "/reminders"],
  ["posterStudent", "/post-room"],
  ["office", "/office/limits"],
  ["office", "/office/scales"],
  ["teacher", "/feed"],
  ["revisingStudent", "/work"],
  ["revisingStudent", "/work/{revising}"],
  ["doneStudent", "/work/{done}"],
  ["guardian", "/week"],
  ["office", "/office"],
  ["office", "/office?find=lover"],
  ["office", "/office/roster"],
  ["office", "/office/calendar"],
  ["office", "/office/people"],
];

/** What the screens are about, by name. */
export async function idsOf(sql: postgres.Sql): Promise<Record<string, string>> {
  const ids: Record<string, string> = {};
  const one = async (query: Promise<{ id: string }[]>) => (await query)[0]!.id;
  ids.teacher = await one(sql`select id from person where name = 'Odalys Brandt'`);
  ids.guardian = await one(sql`select id from person where kind = 'guardian' limit 1`);
  ids.office = await one(sql`select id from person where kind = 'office'`);
  ids.section = await one(sql`select id from section where name = 'Curlew'`);
  ids.beside = await one(sql`select id from section where name = 'Plover'`);
  ids.letter = await one(
    sql`select hand_out.id from hand_out join assignment on assignment.id = assignment_id where title like 'Letter%'`,
  );
  ids.revising = await one(
    sql`select piece.id from piece where hand_out_id = ${ids.letter} and state in ('reworking', 'to_revise') order by id limit 1`,
  );
  ids.done = await one(
    sql`select piece.id from piece where hand_out_id = ${ids.letter} and state = 'handed_back' order by id limit 1`,
  );
  ids.again = await one(
    sql`select piece.id from piece where round > 1 and state = 'handed_in' order by id limit 1`,
  );
  const piece = (title: string, state: string) =>
    one(
      sql`select id from piece_standing where title like ${`%${title}%`} and state = ${state} order by id limit 1`,
    );
  ids.spoken = await one(
    sql`select id from piece_standing where title like '%Shipping forecast, spoken%' and state in ('started', 'not_opened') order by state desc, id limit 1`,
  );
  ids.tide = await piece("Reading the tide table", "handed_back");
  ids.clouds = await one(
    sql`select version.piece_id as id from item join version_item on item_id = item.id join version on version.id = version_id where item.kind = 'photo' order by version.id limit 1`,
  );
  ids.report = await piece("Evaporation at home", "handed_in");
  ids.asked = await one(
    sql`select hand_out.id from hand_out join assignment_questions using (assignment_id) limit 1`,
  );
  ids.poster = await one(
    sql`select id from piece_standing where title like 'Moon phases%' order by exists (select from checkpoint where piece_id = piece_standing.id) desc, id limit 1`,
  );
  ids.said = await one(
    sql`select hand_out_id as id from section_note order by clip_id nulls last, id limit 1`,
  );
  ids.act = await one(sql`select batch_id as id from hand_back_batch_piece where waits limit 1`);
  ids.display = await one(sql`select hand_out_id as id from display limit 1`);
  ids.displayed = await one(
    sql`select piece_id as id from look_mark where version_id is not null order by id limit 1`,
  );
  ids.look = await one(sql`select id from look where done_at is not null order by id limit 1`);
  ids.lookStudent = await one(sql`select reader_id as id from look where id = ${ids.look}`);
  ids.displayedStudent = await one(
    sql`select author_id as id from look_mark where version_id is not null and piece_id = ${ids.displayed} order by id limit 1`,
  );
  ids.drafts = await one(
    sql`select hand_out_id as id from piece join hand_back_batch_piece on piece_id = piece.id where waits limit 1`,
  );
  for (const key of ["revising", "done", "spoken", "tide", "clouds", "poster"])
    ids[`${key}Student`] = await one(
      sql`select student_id as id from piece where id = ${ids[key]!}`,
    );
  return ids;
}

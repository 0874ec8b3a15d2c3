import { schoolDayFrom, type SchoolCalendar } from "../src/core/time/term";
import { addDays, dayOf } from "../src/core/time/zone";
import type { Call, Person } from "../src/server/call";
import { makeBatch } from "../src/server/handingBack/batches";
import { setOutcome } from "../src/server/handingBack/draftOutcome";
import { addReturnedFile } from "../src/server/handingBack/files";
import { storeUpload } from "../src/server/uploads/uploads";

const CHECKLIST = `How to read your own table, before you hand it in again

1. Does every figure have its unit?
2. Could somebody who was not there draw the graph from it?
3. Is there one sentence that says what it shows?
`;

/**
 * What goes back at a time: the drafts of one hand-out, set for the end of the next school day, one of them to
 * revise, with a sheet for all of them.
 */
export async function setBacks(
  call: Omit<Call, "who"> & { who: Person },
  calendar: SchoolCalendar,
): Promise<void> {
  const { tx, who, now } = call;
  const drafts = await tx<{ id: string; handOutId: string }[]>`
    select standing.id, standing.hand_out_id
    from piece_standing standing
    join section_teacher on section_teacher.section_id = standing.section_id
      and section_teacher.person_id = ${who.id} and section_teacher.role = 'owner'
    where standing.drafted and standing.state = 'handed_in'
    order by count(*) over (partition by standing.hand_out_id) desc, standing.hand_out_id, standing.id`;
  const going = drafts.filter((draft) => draft.handOutId === drafts[0]?.handOutId);
  if (going.length === 0) return;
  const bytes = Buffer.from(CHECKLIST);
  const name = "Before you hand it in again.txt";
  const upload = await storeUpload(call, { name, bytes, mediaType: "application/octet-stream" });
  const pieceIds = going.map((draft) => draft.id);
  await addReturnedFile(call, { uploadId: upload.id, pieceIds });
  const day = (days: number) => schoolDayFrom(addDays(dayOf(now, who.zone), days), calendar);
  await setOutcome(call, pieceIds[0]!, { outcome: "revise", due: `${day(9)}T16:00` });
  await makeBatch(call, {
    ...{ pieceIds, outcome: "draft", due: `${day(9)}T16:00`, at: `${day(1)}T15:30`, hold: 0 },
    ...{ message: "Read it before the lesson, please.", scores: "now", scoresAt: null },
  });
}

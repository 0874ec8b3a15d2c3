import { sayTitle } from "@/core/handouts/plan";
import { sayTime } from "@/core/time/words";
import type { ShelfView } from "@/core/views/handOutViews";
import { requireKind } from "../access/standing";
import type { ReadCall } from "../call";
import { listDrafts } from "../handouts/drafts";
import { listRubrics } from "../rubrics/rubrics";

/** What a teacher can take from the Shelf: drafts and kept ones, work handed out before, rubrics, files. The bank is read by itself. */
export async function shelfView(call: ReadCall): Promise<ShelfView> {
  const { db, who, now } = call;
  requireKind(who, "teacher");
  const [drafts, assignments, rubrics, files] = await Promise.all([
    listDrafts(call),
    db<
      {
        handOutId: string;
        title: string;
        number: number | null;
        emoji: string | null;
        course: string;
        sections: string[];
        dueAt: Date;
        archived: boolean;
        withdrawn: boolean;
      }[]
    >`
      select
        (array_agg(hand_out.id order by hand_out.due_at))[1] as hand_out_id, assignment.title, assignment.number, assignment.emoji, course.name as course,
        array_agg(section.name order by section.name) as sections, max(hand_out.due_at) as due_at,
        bool_and(hand_out.put_away_at is not null) as archived,
        bool_and(hand_out.withdrawn_at is not null) as withdrawn
      from section_teacher
      join section on section.id = section_teacher.section_id
      join hand_out on hand_out.section_id = section.id
      join assignment on assignment.id = hand_out.assignment_id
      join course on course.id = assignment.course_id
      where section_teacher.person_id = ${who.id}
      group by assignment.id, course.name
      order by max(hand_out.due_at) desc
      limit 300`,
    listRubrics(call),
    db<
      {
        id: string;
        name: string;
        mediaType: string;
        size: string;
        createdAt: Date;
        usedIn: number;
      }[]
    >`
      select upload.id, upload.name, upload.media_type, upload.size, upload.created_at,
        (select count(distinct assignment_id)::int from (select assignment_id from material where upload_id = upload.id union all select assignment_id from assignment_picture where upload_id = upload.id) used) as used_in
      from upload
      where upload.owner_id = ${who.id}
      order by upload.created_at desc
      limit 200`,
  ]);
  return {
    drafts: drafts.map(({ id, title, sections, changedAt, kept }) => ({
      id,
      title,
      sections,
      kept,
      when: sayTime(changedAt, now, who.zone),
    })),
    assignments: assignments.map(({ dueAt, number, emoji, title, ...rest }) => ({
      ...rest,
      title: sayTitle({ title, number, emoji }),
      due: sayTime(dueAt, now, who.zone),
    })),
    files: files.map(({ createdAt, size, ...file }) => ({
      ...file,
      size: Number(size),
      when: sayTime(createdAt, now, who.zone),
    })),
    rubrics,
  };
}

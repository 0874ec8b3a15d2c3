import { USUAL_RULES, type GradeRules } from "@/core/grades/rules";
import { may } from "@/core/access/access";
import type { ExtraTime } from "@/core/handouts/extraTime";
import type { ClassAnswers } from "@/core/sectionNotes/sectionNote";
import type { LatePolicy } from "@/core/scores/latePolicy";
import type { Meeting } from "@/core/time/lessons";
import { dayOf } from "@/core/time/zone";
import type { SectionSetUp } from "@/core/views/handOutViews";
import { classesToSignIn } from "../auth/givePassword";
import { requireOnSection } from "../access/standing";
import type { ReadCall } from "../call";
import { readGradeScales } from "../office/gradeScales";

/** How a section is set up. Only its owner changes it; its other teachers see it. */
export async function sectionSetUp(call: ReadCall, sectionId: string): Promise<SectionSetUp> {
  const { db, who, now } = call;
  const standing = await requireOnSection(db, who, sectionId, "handOut.see");
  const [[about], meetings, teachers, students, groups, categories, toSignIn, gradeScales] =
    await Promise.all([
      db<
        {
          id: string;
          name: string;
          course: string;
          late: LatePolicy;
          voiceSeconds: number;
          replySeconds: number;
          classAnswers: ClassAnswers;
          gradeRules: Partial<GradeRules>;
          term: string;
          startsOn: string;
          endsOn: string;
        }[]
      >`
      select section.id, section.name, course.name as course, section.late_policy as late, section.voice_seconds, section.reply_seconds, section.class_answers, section.grade_rules, term.name as term, term.starts_on, term.ends_on
      from section
      join course on course.id = section.course_id
      join term on term.id = course.term_id
      where section.id = ${sectionId}`,
      db<
        (Meeting & { id: string })[]
      >`select id, weekday, starts, ends from meeting where section_id = ${sectionId} order by weekday, starts`,
      db<{ id: string; name: string; role: "owner" | "co-teacher"; mayHandBack: boolean }[]>`
      select person.id, person.name, section_teacher.role, section_teacher.may_hand_back
      from section_teacher
      join person on person.id = section_teacher.person_id
      where section_teacher.section_id = ${sectionId}
      order by section_teacher.role desc, person.sort_name`,
      db<
        {
          id: string;
          name: string;
          email: string | null;
          joinedOn: string;
          leftOn: string | null;
          readAloud: boolean;
        }[]
      >`
      select person.id, person.name, coalesce(person.email, person.school_name) as email, enrolment.joined_on, enrolment.left_on, enrolment.read_aloud
      from enrolment
      join person on person.id = enrolment.student_id
      where enrolment.section_id = ${sectionId}
      order by person.sort_name, person.id`,
      db<
        {
          id: string;
          name: string;
          extraAmount: number | null;
          extraUnit: ExtraTime["unit"] | null;
          revision: number;
          members: string[];
        }[]
      >`
      select id, name, extra_amount, extra_unit, revision, coalesce((select array_agg(student_id::text) from group_member where group_id = section_group.id), '{}') as members
      from section_group
      where section_id = ${sectionId}
      order by name`,
      db<
        SectionSetUp["categories"]
      >`select id, name, weight, drop_lowest as drop, shows from category where section_id = ${sectionId} order by position`,
      may(standing, "section.passwords") ? classesToSignIn(call, sectionId) : [],
      readGradeScales(db, who.schoolId),
    ]);
  const { term, startsOn, endsOn, gradeRules, ...rest } = about!;
  return {
    ...rest,
    term: { name: term, startsOn, endsOn },
    mayChange: may(standing, "section.setUp"),
    toSignIn: toSignIn[0] ?? null,
    today: dayOf(now, who.zone),
    meetings: meetings.map((m) => ({ ...m, weekday: Number(m.weekday) })),
    teachers,
    students: students.map((student) => ({
      ...student,
      groups: groups.filter((g) => g.members.includes(student.id)).map((g) => g.id),
    })),
    groups: groups.map(({ id, name, extraAmount, extraUnit, members, revision }) => ({
      id,
      name,
      members,
      revision,
      extra: extraAmount === null ? null : { amount: extraAmount, unit: extraUnit! },
    })),
    categories: categories.map((c) => ({ ...c, weight: String(Number(c.weight)) })),
    gradeRules: { ...USUAL_RULES, ...gradeRules },
    gradeScales,
  };
}

import { may } from "@/core/access/access";
import { sayRounds, type FinalScore } from "@/core/rounds/roundsRule";
import { sayLatePolicy, type LatePolicy } from "@/core/scores/latePolicy";
import { type ScoreKind } from "@/core/scores/scales";
import { instantToWall } from "@/core/time/zone";
import type { RichDoc } from "@/core/text/richDoc";
import { sayTime } from "@/core/time/words";
import type { HandOutSheet } from "@/core/views/overviewViews";
import { requireOnHandOut } from "../access/standing";
import { actsOn } from "../handingBack/actsOn";
import { readHistory } from "./history";
import { readCalendar } from "../calendar/calendar";
import type { ReadCall } from "../call";
import { overTime } from "./overTime";
import { lineOf, readByWords, readLines } from "./sheetLines";

/** A hand-out's sheet: one line per student, and what happened. */
export async function handOutSheet(call: ReadCall, handOutId: string): Promise<HandOutSheet> {
  const { db, who, now } = call;
  const standing = await requireOnHandOut(db, who, handOutId, "handOut.see");
  const [about, lines, history, others, going] = await Promise.all([
    readAbout(call, handOutId),
    readLines(call, handOutId),
    readHistory(call, handOutId),
    readOthers(call, handOutId),
    actsOn(call, handOutId),
  ]);
  return {
    ...about,
    mayChange: may(standing, "section.handOut"),
    mayHandBack: may(standing, "feedback.handBack"),
    going,
    overTime: overTime(lines.filter((line) => !line.hidden)),
    readBy: readByWords(lines, now, who.zone),
    others,
    lines: lines.map((line) => lineOf(line, now, who.zone)),
    history,
  };
}

type About = {
  id: string;
  assignmentId: string;
  title: string;
  section: string;
  sectionId: string;
  course: string;
  instructions: RichDoc;
  opensAt: Date;
  dueAt: Date;
  closesAt: Date | null;
  promisedAt: Date | null;
  graceMinutes: number;
  pointsPossible: string | null;
  scoreKind: ScoreKind;
  expects: "work" | "nothing";
  revision: number;
  withdrawnAt: Date | null;
  archived: boolean;
  begun: boolean;
  latePolicy: LatePolicy;
  category: string | null;
  roundsMost: number | null;
  roundsUntil: Date | null;
  finalScore: FinalScore;
  winBackPercent: string;
  counts: boolean;
  extraCredit: boolean;
  versions: { id: string; name: string }[] | null;
  alsoIn: { id: string; section: string }[] | null;
};

async function readAbout({ db, who, now }: ReadCall, handOutId: string) {
  const [[row], { calendar }] = await Promise.all([
    db<About[]>`
      select
        hand_out.id, hand_out.assignment_id, full_title(assignment.emoji, assignment.number, assignment.title) as title, section.name as section, section.id as section_id, course.name as course, assignment.instructions,
        hand_out.opens_at, hand_out.due_at, hand_out.promised_at, hand_out.grace_minutes, hand_out.revision, hand_out.withdrawn_at, hand_out.late_policy, category.name as category,
        assignment.points_possible, assignment.score_kind, assignment.expects, assignment.rounds_most, assignment.rounds_until, assignment.final_score, assignment.win_back_percent, assignment.counts, assignment.extra_credit,
        -- Nothing closes before the grace is over.
        case when hand_out.closes_at is not null then greatest(hand_out.closes_at, hand_out.due_at + make_interval(mins => hand_out.grace_minutes)) end as closes_at,
        hand_out.put_away_at is not null as archived,
        exists (select from piece where hand_out_id = hand_out.id and (opened_at is not null or state <> 'not_opened')) as begun,
        (select jsonb_agg(jsonb_build_object('id', id, 'name', name) order by name) from assignment_version where assignment_id = assignment.id) as versions,
        (
          select jsonb_agg(jsonb_build_object('id', other.id, 'section', other_section.name) order by other_section.name)
          from hand_out other
          join section other_section on other_section.id = other.section_id
          join section_teacher on section_teacher.section_id = other.section_id and section_teacher.person_id = ${who.id}
          where other.assignment_id = assignment.id and other.id <> hand_out.id
        ) as also_in
      from hand_out
      join assignment on assignment.id = hand_out.assignment_id
      join section on section.id = hand_out.section_id
      join course on course.id = section.course_id
      left join category on category.id = hand_out.category_id
      where hand_out.id = ${handOutId}`,
    readCalendar(db, who.schoolId),
  ]);
  const about = row!;
  const words = (at: Date) => sayTime(at, now, who.zone);
  const {
    id,
    title,
    section,
    sectionId,
    course,
    instructions,
    expects,
    revision,
    archived,
    category,
  } = about;
  return {
    id,
    title,
    section,
    sectionId,
    course,
    instructions,
    expects,
    revision,
    archived,
    category,
    opens: words(about.opensAt),
    due: words(about.dueAt),
    wallDue: instantToWall(about.dueAt, who.zone),
    closes: about.closesAt && words(about.closesAt),
    promised: about.promisedAt && words(about.promisedAt),
    grace: about.graceMinutes,
    points: about.pointsPossible === null ? null : String(Number(about.pointsPossible)),
    withdrawn: about.withdrawnAt && words(about.withdrawnAt),
    opensLater: about.opensAt > now,
    deletable: !about.begun,
    counting: [
      about.scoreKind === "points"
        ? ""
        : {
            percent: "percent",
            letters: "letters",
            levels: "levels",
            completion: "complete or not",
            words: "words only",
            none: "not scored",
          }[about.scoreKind],
      about.counts ? "" : "does not count",
      about.extraCredit ? "extra credit" : "",
    ]
      .filter(Boolean)
      .join(", "),
    late: sayLatePolicy(
      about.latePolicy,
      about.dueAt,
      about.pointsPossible === null ? null : String(Number(about.pointsPossible)),
      { calendar, zone: who.zone },
    ),
    rounds: sayRounds({
      most: about.roundsMost,
      until: about.roundsUntil,
      final: about.finalScore,
      winBackPercent: String(Number(about.winBackPercent)),
    }),
    versions: about.versions ?? [],
    alsoIn: about.alsoIn ?? [],
  };
}

/** Students of the section who do not have this now. */
async function readOthers(
  { db, who, now }: ReadCall,
  handOutId: string,
): Promise<HandOutSheet["others"]> {
  return db<HandOutSheet["others"]>`
    select person.id as student_id, shown_name(person) as student, piece.id is not null as taken
    from hand_out
    join enrolment on enrolment.section_id = hand_out.section_id
    join person on person.id = enrolment.student_id
    left join piece on piece.hand_out_id = hand_out.id and piece.student_id = person.id
    where hand_out.id = ${handOutId} and (piece.id is null or piece.removed_at is not null)
      and (enrolment.left_on is null or enrolment.left_on > (${now}::timestamptz at time zone ${who.zone})::date)
    order by person.sort_name, person.id`;
}

import { may } from "@/core/access/access";
import { finalScore, sayRounds, type FinalScore } from "@/core/rounds/roundsRule";
import { sayLatePolicy, type LatePolicy } from "@/core/scores/latePolicy";
import { sayPoints, type ScoreKind } from "@/core/scores/scales";
import { instantToWall } from "@/core/time/zone";
import type { RichDoc } from "@/core/text/richDoc";
import { sayTime } from "@/core/time/words";
import type { HandOutSheet, SheetLine } from "@/core/views/overviewViews";
import { sayState } from "@/core/views/states";
import { requireOnHandOut } from "../access/standing";
import { hiddenNow, unlinked } from "../names/names";
import { readHistory } from "./history";
import { readCalendar } from "../calendar/calendar";
import type { ReadCall } from "../call";
import {
  lateWords,
  moonOf,
  requestsOf,
  whatCameBack,
  type CameBackColumns,
  type StandingRow,
} from "../life/standings";

type Line = StandingRow &
  CameBackColumns & {
    hidden: boolean;
    byName: string;
    student: string;
    ownDueAt: Date | null;
    ownDueFrom: "teacher" | "group" | null;
    leftAt: Date | null;
    versionId: string | null;
    version: string | null;
    finals: string[];
    checkpoints: number;
    scoreKind: ScoreKind;
    pointsPossible: string | null;
    finalScore: FinalScore;
    winBackPercent: string;
  };

/** A hand-out's sheet: one line per student, and what happened. */
export async function handOutSheet(call: ReadCall, handOutId: string): Promise<HandOutSheet> {
  const { db, who, now } = call;
  const standing = await requireOnHandOut(db, who, handOutId, "handOut.see");
  const [about, lines, history, others] = await Promise.all([
    readAbout(call, handOutId),
    readLines(call, handOutId),
    readHistory(call, handOutId),
    readOthers(call, handOutId),
  ]);
  return {
    ...about,
    mayChange: may(standing, "section.handOut"),
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

function readLines({ db }: ReadCall, handOutId: string): Promise<Line[]> {
  return db<Line[]>`
    select
      standing.*, shown_name(student) as student, piece.by_name, ${hiddenNow(db, db`standing.id`)} as hidden, piece.own_due_at, piece.version_id, wording.name as version, assignment.final_score, assignment.win_back_percent,
      coalesce((
        select array_agg(kept.points::text order by kept.round_number)
        from (
          select distinct on (round_number) round_number, points
          from score
          where piece_id = standing.id and not exists (select from hand_back_withdrawn where hand_back_id = score.hand_back_id)
          order by round_number, set_at desc, id desc
        ) kept
      ), '{}') as finals,
      (select count(*)::int from checkpoint where piece_id = standing.id and round_number = standing.round and standing.state in ('started', 'reworking')) as checkpoints,
      ${whatCameBack(db)}
    from every_piece standing
    join person student on student.id = standing.student_id
    join piece on piece.id = standing.id
    join hand_out on hand_out.id = standing.hand_out_id
    join assignment on assignment.id = hand_out.assignment_id
    left join assignment_version wording on wording.id = piece.version_id
    where standing.hand_out_id = ${handOutId} and standing.removed_at is null
    order by student.sort_name, standing.id`;
}

function lineOf(line: Line, now: Date, zone: string): SheetLine {
  const seen = openLineOf(line, now, zone);
  if (!line.hidden) return seen;
  const moon = unlinked(seen.moon);
  return {
    ...seen,
    ...{ pieceId: line.byName, onDesk: false, moon, state: sayState(moon) },
    ...{ handedIn: null, lateness: null, openRequests: 0, settledRequests: 0, checkpoints: 0 },
    ...{ score: null, seen: null },
  };
}

function openLineOf(line: Line, now: Date, zone: string): SheetLine {
  const moon = moonOf(line, now);
  const handBacks = line.handBacks ?? [];
  const last = handBacks.at(-1);
  const requests = requestsOf(line);
  const final = finalScore(line.finals, {
    final: line.finalScore,
    winBackPercent: line.winBackPercent,
  });
  return {
    studentId: line.studentId,
    excused: line.excused,
    ownDue:
      line.ownDueAt && line.ownDueFrom
        ? {
            words: sayTime(line.ownDueAt, now, zone),
            wall: instantToWall(line.ownDueAt, zone),
            from: line.ownDueFrom,
          }
        : null,
    version: line.version,
    versionId: line.versionId,
    left: line.leftAt !== null,
    pieceId: line.id,
    onDesk: true,
    student: line.student,
    moon,
    state: sayState(moon),
    handedIn: line.handedInAt && sayTime(line.handedInAt, now, zone),
    lateness: lateWords(line, zone),
    openRequests: requests.open,
    settledRequests: requests.settled,
    checkpoints: line.checkpoints,
    score:
      final === null
        ? null
        : sayPoints(final, { kind: line.scoreKind, possible: line.pointsPossible }),
    seen:
      last && line.seenAt && line.seenAt >= new Date(last.at)
        ? sayTime(line.seenAt, now, zone)
        : null,
  };
}

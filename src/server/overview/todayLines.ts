import { kindOfWork, minutesFor, paceOf, type Taken } from "@/core/today/pace";
import { byPressing, isBroken, type Waits } from "@/core/today/pressing";
import { sayDayOf } from "@/core/time/words";
import { LINE_COUNTS, type LineCount, type TodayLine } from "@/core/views/overviewViews";
import type { ReadCall } from "../call";
import type { Counts } from "./today";
import type { Extra, ExtraCheckpoints } from "./todayWaits";

type Found = {
  counts: readonly Counts[];
  answers: readonly Extra[];
  checkpoints: readonly ExtraCheckpoints[];
  shown: readonly Extra[];
};

type Row = Waits & {
  handOutId: string;
  title: string;
  section: string;
  counts: Record<LineCount, number>;
  checkpointPieceId: string | null;
  kind: string;
};

/** One line for each hand-out of which anything waits for this teacher, the most pressing first. */
export function todayLines(
  { counts, answers, checkpoints, shown }: Found,
  taken: readonly Taken[],
  { now, who }: ReadCall,
): TodayLine[] {
  const rows = new Map(counts.map((row) => [row.handOutId, rowOf(row)]));
  const add = (extra: Extra, kind: LineCount) => {
    const row = rows.get(extra.handOutId) ?? bare(extra);
    row.counts[kind] = extra.count;
    if (!row.oldestAt || extra.oldestAt < row.oldestAt) row.oldestAt = extra.oldestAt;
    rows.set(extra.handOutId, row);
    return row;
  };
  for (const extra of answers) add(extra, "answers");
  for (const extra of shown) add(extra, "shown");
  for (const extra of checkpoints) add(extra, "checkpoints").checkpointPieceId = extra.pieceId;
  return [...rows.values()]
    .filter((row) => LINE_COUNTS.some((kind) => row.counts[kind] > 0))
    .sort((a, b) => byPressing(a, b, now))
    .map(({ promisedAt, oldestAt, owed, kind, ...row }) => ({
      ...row,
      promised: promisedAt && owed > 0 ? sayDayOf(promisedAt, now, who.zone) : null,
      broken: isBroken({ promisedAt, oldestAt, owed }, now),
      oldest: oldestAt && sayDayOf(oldestAt, now, who.zone),
      minutes: minutesFor(toRead(row.counts), paceOf(taken, { handOutId: row.handOutId, kind })),
    }));
}

const toRead = (counts: Record<LineCount, number>): number =>
  counts.new + counts.again + counts.late;

function rowOf(row: Counts): Row {
  const { handOutId, title, section, promisedAt, owed, oldestAt, parts } = row;
  return {
    ...{ handOutId, title, section, promisedAt, owed, oldestAt, checkpointPieceId: null },
    kind: kindOfWork(parts),
    counts: {
      ...{ new: row.new, again: row.again, late: row.late, drafted: row.drafted },
      ...{ questions: row.questions, checkpoints: 0, answers: 0, shown: 0 },
    },
  };
}

/** Of a hand-out whose pieces are not counted any more: put away, with a word that came since. */
function bare({ handOutId, title, section }: Extra): Row {
  return {
    ...{ handOutId, title, section, promisedAt: null, owed: 0, oldestAt: null },
    ...{ checkpointPieceId: null, kind: "" },
    counts: {
      ...{ new: 0, again: 0, late: 0, drafted: 0 },
      ...{ questions: 0, checkpoints: 0, answers: 0, shown: 0 },
    },
  };
}

import { EMPTY_CELL } from "../src/core/ledger/cell";
import { addDays, wallToInstant } from "../src/core/time/zone";
import type { Call } from "../src/server/call";
import { freezeTerm } from "../src/server/grades/freeze";
import { handBack } from "../src/server/handingBack/handBack";
import { addColumn } from "../src/server/ledger/addColumn";
import { saveCells } from "../src/server/ledger/save";
import { saveFeedback } from "../src/server/marking/draft";
import { seeded } from "./random";

/** What was done on paper in the term before: days after its beginning, and how it went on the whole. */
const WORK = [
  { title: "Field notebook, checked", points: "20", after: 30, mean: 0.82 },
  { title: "Oral: a path described", points: "10", after: 52, mean: 0.78 },
  { title: "Test: words for water", points: "25", after: 84, mean: 0.7 },
] as const;
/** So long before a term the one before began, and for so long it went on, in days. */
const BEFORE = 126;
const LASTS = 105;

const SEASONS = ["winter", "spring", "autumn"];

/** What a term is called by the day it is in the middle of. */
export function seasonOf(day: string): string {
  const month = Number(day.slice(5, 7));
  if (month >= 8) return "autumn";
  return month <= 3 ? "winter" : "spring";
}

/** The term before the one that is now, with its days. */
export const earlierTerm = (begins: string, today: string) => ({
  name: SEASONS.at(SEASONS.indexOf(seasonOf(today)) - 1)!,
  startsOn: addDays(begins, -BEFORE),
  endsOn: addDays(begins, LASTS - BEFORE),
});

/**
 * An earlier term of one section: scores on paper, handed back and put away, the grades frozen at its end. One score was
 * corrected after that, so that one grade differs from what its scores would make now.
 */
export async function frozenTerm(
  call: Call,
  sectionId: string,
  { name, startsOn, endsOn }: { name: string; startsOn: string; endsOn: string },
): Promise<void> {
  const { zone } = call.who;
  const on = (day: string, clock: string) => ({
    ...call,
    now: wallToInstant(`${day}T${clock}`, zone).at,
  });
  await call.tx`
    update enrolment set joined_on = ${startsOn}
    where section_id = ${sectionId} and joined_on = (select min(joined_on) from enrolment where section_id = ${sectionId})`;
  const [category] = await call.tx<{ name: string }[]>`
    select name from category where section_id = ${sectionId} order by weight desc, position limit 1`;
  let last: string | undefined;
  for (const { title, points, after, mean } of WORK) {
    const day = addDays(startsOn, after);
    const at = on(day, "16:00");
    const { handOutId } = await addColumn(at, sectionId, {
      ...{ title, points, on: day, category: category?.name ?? "" },
    });
    const random = seeded(`earlier ${title}`);
    const pieces = await call.tx<{ id: string }[]>`
      select piece.id
      from piece join person on person.id = piece.student_id
      where piece.hand_out_id = ${handOutId}
      order by person.sort_name, person.id`;
    const share = () => Math.min(1, Math.max(0.3, mean + (random() - 0.5) * 0.5));
    const cells = pieces.map(({ id }) => {
      const score = String(Math.round(share() * Number(points) * 2) / 2);
      return { pieceId: id, was: EMPTY_CELL, now: { ...EMPTY_CELL, score } };
    });
    await saveCells(at, sectionId, cells, name);
    for (const { pieceId } of cells) await handBack(at, pieceId, { outcome: "final", due: null });
    await call.tx`update hand_out set put_away_at = ${at.now} where id = ${handOutId}`;
    last = cells[1]?.pieceId;
  }
  await freezeTerm(on(endsOn, "17:00"), sectionId, { term: name });
  if (!last) return;
  const later = on(addDays(endsOn, 6), "12:00");
  const { revision } = (
    await call.tx<{ revision: number }[]>`select revision from feedback where piece_id = ${last}`
  )[0]!;
  const given = {
    overall: "A page of yours was counted twice; the score is right now.",
    score: "25",
    picks: {},
  };
  await saveFeedback(later, last, given, revision);
  await handBack(later, last, { outcome: "final", due: null });
}

import { isTeacher, may, type Standing } from "@/core/access/access";
import { mayReport, UNNAMED } from "@/core/looks/shown";
import type { Place } from "@/core/marks/place";
import { wholeMark, type Mark } from "@/core/marks/schema";
import { mayTakeAway, seesSaid } from "@/core/sectionNotes/sectionNote";
import { whereNow } from "@/core/rounds/cameBack";
import { sayTime } from "@/core/time/words";
import type { ShownMark } from "@/core/views/lookViews";
import type { Reattached } from "@/core/marks/reattach";
import type { Person } from "../call";
import type { Db } from "../db/connection";
import { followedMarks } from "../text/aligned";

/** Marks by those who were shown work. Nothing is overwritten: what is taken away keeps its row, with who took it. */
export type MarkRow = {
  id: string;
  pieceId: string;
  lookId: string | null;
  versionId: string | null;
  checkpointId: string | null;
  authorId: string;
  author: string;
  authorKind: string;
  kind: Mark["kind"];
  startAt: number;
  endAt: number;
  quote: string;
  body: string;
  replacement: string;
  place: Place | null;
  clipId: string | null;
  saidAt: Date;
  shownAt: Date | null;
  takenAt: Date | null;
  reportedAt: Date | null;
  reportWhy: string;
  decision: "accepted" | "declined" | null;
  named: boolean;
  anonymous: boolean;
};

/** All that was ever said of a piece by those it was shown to, the earliest first. Index: look_mark_piece. */
export function readShownMarks(db: Db, pieceId: string): Promise<MarkRow[]> {
  return db<MarkRow[]>`
    select said.*, look.checkpoint_id, author.name as author, author.kind as author_kind,
      coalesce(look.named, display.named, false) as named, hand_out.anonymous
    from look_mark said
    join person author on author.id = said.author_id
    join piece on piece.id = said.piece_id
    join hand_out on hand_out.id = piece.hand_out_id
    left join look on look.id = said.look_id
    left join display on display.hand_out_id = piece.hand_out_id and said.version_id is not null
    where said.piece_id = ${pieceId}
    order by said.said_at, said.id`;
}

export const stateOf = (row: MarkRow, whoId: string) => ({
  mine: row.authorId === whoId,
  shown: row.shownAt !== null,
  taken: row.takenAt !== null,
  reported: row.reportedAt !== null,
});

/** Those of them that the one who asks may see. */
export const seenBy = (rows: readonly MarkRow[], standing: Standing, who: Person): MarkRow[] =>
  rows.filter((row) => seesSaid(standing, stateOf(row, who.id)));

export const markOf = (row: MarkRow): Mark =>
  wholeMark({
    ...{ id: row.id, kind: row.kind, start: row.startAt, end: row.endAt, quote: row.quote },
    ...{ body: row.body, replacement: row.replacement, clipId: row.clipId },
    ...(row.place ? { place: row.place } : {}),
  });

/** The text a mark was made on: of a checkpoint or of a version. */
const textIdOf = (row: MarkRow): string => (row.checkpointId ?? row.versionId)!;

async function readTextsOf(db: Db, rows: readonly MarkRow[]): Promise<Map<string, string>> {
  const ids = [...new Set(rows.map(textIdOf))];
  if (ids.length === 0) return new Map();
  const found = await db<{ id: string; text: string }[]>`
    select id, text from checkpoint where id = any(${ids})
    union all
    select id, text from version_content where id = any(${ids})`;
  return new Map(found.map((row) => [row.id, row.text]));
}

/** Where each of them stands in the text now looked at, by its id. */
async function followed(
  db: Db,
  rows: readonly MarkRow[],
  text: string,
): Promise<Map<string, Reattached>> {
  const texts = await readTextsOf(db, rows);
  const sources = [...texts.keys()];
  // One "round" for each text they were made on: they are followed as marks that were handed back are.
  const groups = sources.map((id) => rows.filter((row) => textIdOf(row) === id));
  const places = await followedMarks(
    db,
    {
      handBacks: sources.map((versionId, round) => ({
        ...{ round, outcome: "revise" as const },
        content: { ...NOTHING, versionId, marks: groups[round]!.map(markOf) },
      })),
      texts,
    },
    text,
  );
  return new Map(
    groups.flatMap((group, round) =>
      group.flatMap((row, n): [string, Reattached][] => {
        const found = places.get(round)?.[n];
        return found ? [[row.id, found]] : [];
      }),
    ),
  );
}
const NOTHING = { overall: "", scoreTyped: "", points: null, possible: null, rulings: [] };

export type Looking = {
  standing: Standing;
  who: Person;
  now: Date;
  /** The text shown, and the files beside it. */ text: string;
  items: ReadonlySet<string>;
};

/** Marks as they are shown: at their words in the text, or gone from it. */
export async function shownMarks(
  db: Db,
  rows: readonly MarkRow[],
  looking: Looking,
): Promise<ShownMark[]> {
  const places = await followed(db, rows, looking.text);
  return rows.map((row) => viewOf(row, places.get(row.id), looking));
}

function viewOf(row: MarkRow, found: Reattached | undefined, looking: Looking): ShownMark {
  const { standing, who, now } = looking;
  const said = stateOf(row, who.id);
  const { start: _start, end: _end, ...mark } = markOf(row);
  const words = said.taken ? { body: "This was taken away.", replacement: "", clipId: null } : {};
  return {
    ...mark,
    ...words,
    ...whereNow(mark, found, looking.items),
    ...{ round: 0, request: null, decision: row.decision, messages: [] },
    author: nameFor(row, standing, who),
    mine: said.mine,
    when: sayTime(row.saidAt, now, who.zone),
    state: sayState(said),
    mayShow: may(standing, "shown.moderate") && !said.taken && !said.mine,
    mayTakeAway: mayTakeAway(standing, said),
    mayReport: mayReport(standing, said),
    reported: isTeacher(standing) && said.reported ? row.reportWhy : null,
  };
}

function sayState({ taken, shown }: { taken: boolean; shown: boolean }): ShownMark["state"] {
  if (taken) return "taken away";
  return shown ? "shown" : "waits";
}

/** Who said it, for the one who asks: students by name only where names are shown; teachers always. */
function nameFor(row: MarkRow, standing: Standing, who: Person): string {
  if (row.authorId === who.id) return who.name;
  if (row.authorKind === "teacher") return row.author;
  if (isTeacher(standing)) return row.anonymous ? "a student" : row.author;
  return row.named ? row.author : UNNAMED;
}

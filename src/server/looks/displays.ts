import { isTeacher, may, type Standing } from "@/core/access/access";
import { Invalid, NotFound, Refused } from "@/core/refusals";
import { isOpen, UNNAMED, type DisplayShows } from "@/core/looks/shown";
import { faultAhead } from "@/core/time/ahead";
import { sayTime } from "@/core/time/words";
import { instantToWall, wallToInstant } from "@/core/time/zone";
import type { DisplayedPiece, DisplaySettings, DisplayView } from "@/core/views/lookViews";
import { requireOnHandOut } from "../access/standing";
import type { Call, ReadCall } from "../call";
import { recordEvent } from "../life/queries";
import { hiddenNow, readNumbers } from "../names/names";
import { isChosen, isDisplayedTo, isInHand } from "../access/shown";

/** A display: a teacher lets the students of a hand-out see each other's handed-in work until it closes. */
export type DisplayRow = {
  handOutId: string;
  shows: DisplayShows;
  named: boolean;
  readFirst: boolean;
  onlyHandedIn: boolean;
  closesAt: Date;
  closedAt: Date | null;
};

export async function findDisplay(
  { db }: ReadCall,
  handOutId: string,
): Promise<DisplayRow | undefined> {
  const [row] = await db<DisplayRow[]>`
    select hand_out_id, shows, named, read_first, only_handed_in, closes_at, closed_at
    from display
    where hand_out_id = ${handOutId}`;
  return row;
}

export const isDisplayRowOpen = ({ closesAt, closedAt }: DisplayRow, now: Date): boolean =>
  isOpen({ endsAt: closesAt, endedAt: closedAt }, now);

export type GivenDisplay = Omit<DisplaySettings, "closes"> & { closes: string };

/** A wall-clock time that lies ahead, within a year. @throws Invalid */
export function timeAhead(wall: string, field: string, { who, now }: ReadCall): Date {
  const { at } = wallToInstant(wall, who.zone);
  const fault = faultAhead(at, now);
  if (fault) throw new Invalid({ [field]: fault });
  return at;
}

/** Opens a display, or changes the one there is. What was said in it stays. */
export async function openDisplay(
  call: Call,
  handOutId: string,
  given: GivenDisplay,
): Promise<DisplayView> {
  const { tx, who, now } = call;
  await requireOnHandOut(tx, who, handOutId, "section.handOut");
  const closesAt = timeAhead(given.closes, "closes", call);
  const chosen = given.shows === "chosen" ? [...new Set(given.pieceIds)] : [];
  if (given.shows === "chosen" && chosen.length === 0)
    throw new Invalid({ pieceIds: "Choose whose work is shown." });
  const here = await tx<
    { id: string }[]
  >`select id from piece where hand_out_id = ${handOutId} and id = any(${chosen})`;
  if (here.length !== chosen.length) throw new NotFound();
  const { shows, named, readFirst, onlyHandedIn } = given;
  await tx`
    insert into display ${tx({ handOutId, shows, named, readFirst, onlyHandedIn, openedBy: who.id, openedAt: now, closesAt })}
    on conflict (hand_out_id) do update
    set shows = excluded.shows, named = excluded.named, read_first = excluded.read_first, only_handed_in = excluded.only_handed_in,
      opened_by = excluded.opened_by, opened_at = excluded.opened_at, closes_at = excluded.closes_at, closed_at = null`;
  await tx`delete from display_piece where hand_out_id = ${handOutId}`;
  if (chosen.length > 0)
    await tx`insert into display_piece ${tx(chosen.map((pieceId) => ({ handOutId, pieceId })))}`;
  await recordEvent(call, {
    handOutId,
    pieceId: null,
    kind: "opened a display",
    detail: { shows, named, readFirst, onlyHandedIn, closes: given.closes },
  });
  return readDisplay(call, handOutId);
}

/** Closes it now: from then on classmates see nothing of each other's work. */
export async function closeDisplay(call: Call, handOutId: string): Promise<DisplayView> {
  const { tx, who, now } = call;
  await requireOnHandOut(tx, who, handOutId, "section.handOut");
  const display = await findDisplay(call, handOutId);
  if (!display || !isDisplayRowOpen(display, now))
    throw new Refused("This display is closed already.");
  await tx`update display set closed_at = ${now} where hand_out_id = ${handOutId}`;
  await recordEvent(call, { handOutId, pieceId: null, kind: "closed a display", detail: {} });
  return readDisplay(call, handOutId);
}

/** What someone is to a display as a whole: its teachers always, a student while it is open to them. @throws NotFound */
async function requireDisplay(call: ReadCall, display: DisplayRow): Promise<Standing> {
  const { db, who, now } = call;
  if (who.kind === "teacher") return requireOnHandOut(db, who, display.handOutId, "handOut.see");
  const [mine] = await db<{ inHand: boolean }[]>`
    select ${isInHand(db)} as in_hand
    from piece
    join hand_out on hand_out.id = piece.hand_out_id
    where piece.hand_out_id = ${display.handOutId} and piece.student_id = ${who.id}
      and piece.removed_at is null and piece.left_at is null
      and hand_out.withdrawn_at is null and hand_out.opens_at <= ${now}`;
  const sees = mine && isDisplayRowOpen(display, now) && (mine.inHand || !display.onlyHandedIn);
  if (!sees) throw new NotFound();
  return "reader";
}

/** The display of a hand-out. @throws NotFound for those to whom it is not open */
export async function readDisplay(call: ReadCall, handOutId: string): Promise<DisplayView> {
  const { who, now } = call;
  const display = await findDisplay(call, handOutId);
  if (!display) throw new NotFound();
  const standing = await requireDisplay(call, display);
  const [[about], pieces, settings] = await Promise.all([
    readAbout(call, handOutId),
    readDisplayed(call, display, standing),
    isTeacher(standing) ? readSettings(call, display) : null,
  ]);
  const { named, readFirst, onlyHandedIn } = display;
  return {
    handOutId,
    ...about!,
    ...{ named, readFirst, onlyHandedIn, pieces, settings },
    open: isDisplayRowOpen(display, now),
    until: sayTime(display.closesAt, now, who.zone),
    mayChange: may(standing, "section.handOut"),
  };
}

function readAbout({ db }: ReadCall, handOutId: string) {
  return db<{ title: string; section: string }[]>`
    select full_title(assignment.emoji, assignment.number, assignment.title) as title, section.name as section
    from hand_out
    join assignment on assignment.id = hand_out.assignment_id
    join section on section.id = hand_out.section_id
    where hand_out.id = ${handOutId}`;
}

export async function readSettings(
  { db, who }: ReadCall,
  display: DisplayRow,
): Promise<DisplaySettings> {
  const chosen = await db<
    { pieceId: string }[]
  >`select piece_id from display_piece where hand_out_id = ${display.handOutId}`;
  const { shows, named, readFirst, onlyHandedIn } = display;
  return {
    ...{ shows, named, readFirst, onlyHandedIn },
    pieceIds: chosen.map((c) => c.pieceId),
    closes: instantToWall(display.closesAt, who.zone),
  };
}

/** What is shown, piece by piece: those of a display that is closed for its teachers still. Index: piece by hand-out. */
async function readDisplayed(
  call: ReadCall,
  { handOutId, named }: DisplayRow,
  standing: Standing,
): Promise<DisplayedPiece[]> {
  const { db, who } = call;
  const teacher = isTeacher(standing);
  const rows = await db<
    (Omit<DisplayedPiece, "name"> & { name: string; hidden: boolean; itemId: string | null })[]
  >`
    select piece.id as piece_id, shown_name(student) as name, piece.student_id = ${who.id} as own, ${hiddenNow(db, db`piece.id`)} as hidden,
      left(newest.text, 160) as begins,
      (select item.id from version_item held join item on item.id = held.item_id where held.version_id = newest.id and item.kind in ('photo', 'picture') order by held.position limit 1) as item_id,
      (select count(*)::int from look_mark said where said.piece_id = piece.id and said.version_id is not null and said.taken_at is null and (said.shown_at is not null or said.author_id = ${who.id} or ${teacher})) as said,
      (select count(*)::int from look_mark said where said.piece_id = piece.id and said.version_id is not null and said.taken_at is null and said.shown_at is null and ${teacher}) as waits,
      (select count(*)::int from look_mark said where said.piece_id = piece.id and said.version_id is not null and said.taken_at is null and said.reported_at is not null and ${teacher}) as reported
    from piece
    join hand_out on hand_out.id = piece.hand_out_id
    join display on display.hand_out_id = piece.hand_out_id
    join person student on student.id = piece.student_id
    join lateral (
      select id, text from version_content version where version.piece_id = piece.id order by number desc limit 1
    ) newest on true
    where piece.hand_out_id = ${handOutId}
      and (${isDisplayedTo(call)} or ((${teacher} or piece.student_id = ${who.id}) and piece.removed_at is null and ${isInHand(db)} and ${isChosen(db)}))
    order by student.sort_name, piece.id`;
  const numbers = await readNumbers(db, handOutId);
  const nameOf = (row: (typeof rows)[number]): string => {
    const number = numbers.get(row.pieceId) ?? 0;
    if (teacher) return row.hidden ? `Piece ${number}` : row.name;
    if (row.own) return "my work";
    return named ? row.name : `${UNNAMED} ${number}`;
  };
  const views = rows.map(({ itemId, hidden, ...row }) => ({
    ...row,
    name: nameOf({ ...row, itemId, hidden }),
    // Without names the first words could be one.
    begins: named || (teacher && !hidden) ? row.begins : "",
    picture: itemId && `/api/items/${itemId}?as=shown`,
  }));
  return named || teacher
    ? views
    : views.sort((a, b) => a.name.localeCompare(b.name, "en", { numeric: true }));
}

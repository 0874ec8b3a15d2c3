"use client";

import { sayCount } from "@/core/text/sayCount";
import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
  type DragEndEvent,
  type KeyboardCoordinateGetter,
} from "@dnd-kit/core";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { CalendarDay, CalendarItem, CalendarView } from "@/core/views/handOutViews";
import { call, sayProblem } from "../client";
import { Button } from "../kit/Button";
import { Chip } from "../kit/Choices";
import { CheckField } from "../kit/Field";
import { Notice } from "../kit/Notice";
import { classes } from "../kit/classes";
import { sayDrag } from "../kit/sayDrag";
import { sayDate, WEEKDAYS } from "../time";

const SIGNS = { due: "◆", opens: "▷", closes: "■", promised: "○" } as const;
const NAMES = { due: "due", opens: "opens", closes: "closes", promised: "promised back" } as const;

type Moved = { handOutId: string; title: string; words: string[]; was: string; told: number };

/** A month of days. A due date is dragged to another day, or taken up with Space and moved with the arrow keys. */
export function Month({ view }: { view: CalendarView }) {
  const router = useRouter();
  const [items, setItems] = useState(view.items);
  const [seen, setSeen] = useState(view);
  const [sections, setSections] = useState<string[]>(view.sections.map((s) => s.id));
  const [telling, setTelling] = useState(true);
  const [moved, setMoved] = useState<Moved | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  // Fresh data from the server takes the place of what was moved here.
  if (seen !== view) {
    setSeen(view);
    setItems(view.items);
  }
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: byDays }),
  );

  async function move(handOutId: string, day: string, undoing = false) {
    const item = items.find((i) => i.handOutId === handOutId && i.what === "due");
    if (!item || item.day === day) return;
    const before = items;
    setProblem(null);
    setItems(items.map((i) => (i === item ? { ...i, day } : i)));
    try {
      const answer = await call(contract.moveDue, {
        params: { handOutId },
        body: { day, tell: telling },
      });
      setMoved(
        undoing
          ? null
          : {
              handOutId,
              title: `${item.title}, ${item.section}`,
              words: answer.words,
              was: answer.was,
              told: answer.told,
            },
      );
      router.refresh();
    } catch (error) {
      setItems(before);
      setProblem(sayProblem(error));
    }
  }
  const dropped = ({ active, over }: DragEndEvent) =>
    over && void move(String(active.id), String(over.id));
  const shown = items.filter((i) => sections.includes(i.sectionId));
  const loads = new Map(view.loads.map((l) => [l.day, l]));
  return (
    <>
      <div className="mb-3 flex flex-wrap items-center gap-2" role="group" aria-label="Sections">
        {view.sections.map((section) => (
          <Chip
            key={section.id}
            chosen={sections.includes(section.id)}
            onToggle={() =>
              setSections((old) =>
                old.includes(section.id)
                  ? old.filter((id) => id !== section.id)
                  : [...old, section.id],
              )
            }
          >
            {section.name}
          </Chip>
        ))}
        <span className="no-print ml-auto">
          <CheckField
            label="Tell students when a due date moves"
            checked={telling}
            onChange={(event) => setTelling(event.target.checked)}
          />
        </span>
      </div>
      {problem ? (
        <Notice ink="ember" className="mb-3">
          {problem}
        </Notice>
      ) : null}
      {moved ? (
        <Notice
          ink="moss"
          className="mb-3"
          acts={
            <Button small onClick={() => void move(moved.handOutId, moved.was, true)}>
              Undo
            </Button>
          }
        >
          {moved.title}. {moved.words.join(". ")}.{" "}
          {moved.told > 0
            ? `${moved.told === 1 ? "One student was" : `${moved.told} students were`} told.`
            : "Nobody was told."}
        </Notice>
      ) : null}
      <DndContext
        id="month"
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={dropped}
        accessibility={sayDrag(
          (id) => items.find((i) => i.handOutId === id)?.title ?? "It",
          (id) => sayDate(id),
        )}
      >
        <div className="overflow-x-auto">
          <table className="on-side w-full min-w-[56rem] table-fixed border-collapse text-sm">
            <caption className="sr-only">{view.title}</caption>
            <thead>
              <tr>
                {WEEKDAYS.map((name, n) => (
                  <th
                    key={name}
                    scope="col"
                    className={classes(
                      "label border-b border-line-strong pb-0.5 text-left",
                      n > 4 && "w-[9%]",
                    )}
                  >
                    {name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {view.weeks.map((week) => (
                <tr key={week[0]!.day} className="align-top">
                  {week.map((day) => (
                    <DayCell
                      key={day.day}
                      day={day}
                      items={shown.filter((i) => i.day === day.day)}
                      load={loads.get(day.day)}
                    />
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </DndContext>
      <ul
        className="mt-3 flex flex-wrap gap-x-5 text-sm text-soft"
        aria-label="What the signs mean"
      >
        {(["due", "opens", "closes", "promised"] as const).map((what) => (
          <li key={what}>
            <span aria-hidden="true">{SIGNS[what]} </span>
            {NAMES[what]}
          </li>
        ))}
        <li>
          <span className="text-ember">▲ 11 × 2</span>: 11 students have two things due that day
        </li>
        <li className="no-print">drag ◆, or Space and the arrow keys, to move a due date</li>
      </ul>
    </>
  );
}

function DayCell({
  day,
  items,
  load,
}: {
  day: CalendarDay;
  items: readonly CalendarItem[];
  load: CalendarView["loads"][number] | undefined;
}) {
  const { setNodeRef, isOver } = useDroppable({ id: day.day });
  return (
    <td
      ref={setNodeRef}
      className={classes(
        "h-24 border border-line p-1.5",
        day.closed && "hatched",
        !day.inMonth && !day.closed && "bg-sunk",
        isOver && "outline-2 -outline-offset-2 outline-tide",
      )}
    >
      <p className="flex flex-wrap items-baseline gap-x-2">
        <time
          dateTime={day.day}
          aria-label={sayDate(day.day)}
          className={classes(
            "bg-paper px-0.5 font-serif text-base",
            day.today && "font-semibold text-tide underline decoration-2 underline-offset-4",
          )}
        >
          {Number(day.day.slice(8))}
        </time>
        {day.week ? <span className="label bg-paper px-0.5 text-xs!">week {day.week}</span> : null}
        {day.closed && day.closed !== "weekend" ? (
          <span className="bg-paper px-0.5 text-xs text-soft">{day.closed}</span>
        ) : null}
        {load ? (
          <span
            className="ml-auto bg-paper px-0.5 text-xs text-ember"
            title={`${sayCount(load.students, "student has", "students have")} two things due or more; ${load.most} at most`}
          >
            <span aria-hidden="true">
              ▲ {load.students} × {load.most}
            </span>
            <span className="sr-only">
              {sayCount(load.students, "student has", "students have")} two or more things due,{" "}
              {load.most} at most
            </span>
          </span>
        ) : null}
      </p>
      <ul className="mt-0.5 grid grid-cols-[minmax(0,1fr)] gap-0.5">
        {items.map((item) => (
          <li key={`${item.handOutId} ${item.what}`}>
            {item.what === "due" && item.mayMove ? <DueItem item={item} /> : <Item item={item} />}
          </li>
        ))}
      </ul>
    </td>
  );
}

const text = (item: CalendarItem) => `${item.title}, ${item.section}`;

function Item({ item }: { item: CalendarItem }) {
  return (
    <Link
      href={`/hand-outs/${item.handOutId}`}
      prefetch={false}
      className="block min-h-6 truncate bg-paper px-0.5 text-xs text-soft no-underline hover:underline"
      title={`${NAMES[item.what]} ${item.clock}: ${text(item)}`}
    >
      <span aria-hidden="true">{SIGNS[item.what]} </span>
      <span className="sr-only">{NAMES[item.what]} </span>
      {item.section} · {item.title}
    </Link>
  );
}

function DueItem({ item }: { item: CalendarItem }) {
  const { attributes, listeners, setNodeRef, transform, isDragging } = useDraggable({
    id: item.handOutId,
  });
  return (
    <div
      ref={setNodeRef}
      style={transform ? { transform: `translate(${transform.x}px, ${transform.y}px)` } : undefined}
      className={classes(
        "relative flex min-h-6 items-baseline gap-1 border border-tide bg-raised px-1",
        isDragging && "z-30 shadow-lifted",
      )}
    >
      <button
        type="button"
        {...attributes}
        {...listeners}
        aria-label={`Move ${text(item)}, due ${sayDate(item.day)} ${item.clock}`}
        className="min-h-6 min-w-6 cursor-grab touch-none text-tide"
      >
        ◆
      </button>
      <Link
        href={`/hand-outs/${item.handOutId}`}
        prefetch={false}
        className="min-w-0 flex-1 truncate text-ink no-underline hover:underline"
        title={`due ${item.clock}: ${text(item)}, ${sayCount(item.students, "student")}`}
      >
        <span className="text-xs text-soft">{item.section}</span> {item.title}
      </Link>
    </div>
  );
}

/** Arrow keys move by whole days: to the middle of the next cell in that direction. */
const byDays: KeyboardCoordinateGetter = (
  event,
  { context: { droppableRects, collisionRect } },
) => {
  const steps: Record<string, [number, number]> = {
    ArrowLeft: [-1, 0],
    ArrowRight: [1, 0],
    ArrowUp: [0, -1],
    ArrowDown: [0, 1],
  };
  const step = steps[event.code];
  if (!step || !collisionRect) return undefined;
  event.preventDefault();
  const here = {
    x: collisionRect.left + collisionRect.width / 2,
    y: collisionRect.top + collisionRect.height / 2,
  };
  const cells = [...droppableRects.values()].map((r) => ({
    x: r.left + r.width / 2,
    y: r.top + r.height / 2,
  }));
  const nearest = cells.reduce((best, c) => (distance(c, here) < distance(best, here) ? c : best));
  const ahead = cells.filter((c) =>
    step[0] !== 0
      ? Math.sign(c.x - nearest.x) === step[0] && Math.abs(c.y - nearest.y) < 8
      : Math.sign(c.y - nearest.y) === step[1] && Math.abs(c.x - nearest.x) < 8,
  );
  if (ahead.length === 0) return undefined;
  const next = ahead.reduce((best, c) =>
    distance(c, nearest) < distance(best, nearest) ? c : best,
  );
  return { x: next.x - collisionRect.width / 2, y: next.y - collisionRect.height / 2 };
};
const distance = (a: { x: number; y: number }, b: { x: number; y: number }) =>
  Math.hypot(a.x - b.x, a.y - b.y);

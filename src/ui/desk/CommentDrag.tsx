"use client";

import {
  DndContext,
  DragOverlay,
  MouseSensor,
  pointerWithin,
  TouchSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
  type CollisionDetection,
  type DragEndEvent,
} from "@dnd-kit/core";
import { useState, type ReactNode } from "react";
import { fillPlaceholders } from "@/core/comments/placeholders";
import type { CommentView } from "@/core/views/views";
import { useDesk } from "./model";
import { dropComment, type PointSeen } from "./sheet/dropped";

const WORK = "work";

/** Comments of the bank are dragged onto the work, by mouse or by finger; a press does the same by keyboard. */
export function CommentDrag({ children }: { children: ReactNode }) {
  const { session, help } = useDesk();
  const [carried, setCarried] = useState<CommentView | null>(null);
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 6 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: 200, tolerance: 8 } }),
  );
  function dropped({ collisions }: DragEndEvent) {
    const at: PointSeen | undefined = collisions?.[0]?.data?.at;
    if (carried && at) dropComment(session, carried, at);
    setCarried(null);
  }
  return (
    <DndContext
      id="comments"
      sensors={sensors}
      collisionDetection={whereOverTheWork}
      accessibility={{ announcements: SILENT }}
      onDragStart={({ active }) => setCarried(commentOf(active.id, help.bank))}
      onDragEnd={dropped}
      onDragCancel={() => setCarried(null)}
    >
      {children}
      {/* What lies under the pointer is the work, not what is carried. */}
      <DragOverlay dropAnimation={null} style={{ pointerEvents: "none" }}>
        {carried ? (
          <p className="w-max max-w-72 truncate border border-tide bg-raised px-2 py-0.5 text-sm shadow-lifted">
            {fillPlaceholders(carried.text, help.values)}
          </p>
        ) : null}
      </DragOverlay>
    </DndContext>
  );
}

/** Where the pointer is, with what it is over: the point of the window counts, however far the work was scrolled. */
const whereOverTheWork: CollisionDetection = (given) =>
  pointerWithin(given).map((over) => ({
    ...over,
    data: { ...over.data, at: given.pointerCoordinates },
  }));

const nothing = () => undefined;
/** Only a pointer drags here: there is nothing to read out. */
const SILENT = {
  onDragStart: nothing,
  onDragOver: nothing,
  onDragEnd: nothing,
  onDragCancel: nothing,
};

/** The same comment can lie among the favourites and in the list: each has its own handle. */
const handleOf = (where: string, commentId: string) => `${where} ${commentId}`;
const commentOf = (handle: string | number, bank: readonly CommentView[]) =>
  bank.find((c) => c.id === String(handle).split(" ")[1]) ?? null;

/** What makes an element of the tray a handle of a comment. */
export function useCarried(where: "favourite" | "list", comment: CommentView) {
  const { setNodeRef, listeners } = useDraggable({ id: handleOf(where, comment.id) });
  return { setNodeRef, listeners };
}

/** What takes comments: the element that the work scrolls in. */
export const useTakesComments = (): ((element: HTMLElement | null) => void) =>
  useDroppable({ id: WORK }).setNodeRef;

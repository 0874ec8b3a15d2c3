"use client";

import { isStamp } from "@/core/marks/mark";
import { areaOf, isPoint, type Area } from "@/core/marks/place";
import { classes } from "../kit/classes";
import { signOf, type PlacedMark } from "./drawn";
import { ACROSS, InkStroke } from "./InkStroke";
import { useSetApart } from "./useSetApart";

type Props = {
  marks: readonly PlacedMark[];
  /** Height over width of the page or picture. */
  ratio: number;
  /** What stands on each pin, as on its note. */
  numbers: ReadonlyMap<string, number>;
  chosen: string | null;
  onChoose: (id: string) => void;
  /** Present where marks can be moved: begins moving (or, from the corner of an area, sizing) one. */
  onGrab?: (mark: PlacedMark, how: "move" | "size", event: React.PointerEvent) => void;
  /** The same by keys, for the mark that has the focus; true: the key was for it. */
  onNudge?: (mark: PlacedMark, event: React.KeyboardEvent) => boolean;
  /** The focus left a mark. */
  onLeft?: () => void;
};

const percent = ({ x, y, w, h }: Area) => ({
  left: `${x}%`,
  top: `${y}%`,
  width: `${w}%`,
  height: `${h}%`,
});

/**
 * Marks drawn over one page or picture: pins and areas with their number, words under a line, stamps, ink. All in
 * per cent of the surface, so nothing moves when it is zoomed. Each can be chosen by pointer and by keyboard.
 */
export function MarkLayer({
  marks,
  ratio,
  numbers,
  chosen,
  onChoose,
  onGrab,
  onNudge,
  onLeft,
}: Props) {
  const layerRef = useSetApart();
  const ink = marks.filter((m) => m.strokes.length > 0);
  return (
    <div ref={layerRef} className="mark-layer" data-layer>
      {ink.length > 0 ? (
        <svg
          viewBox={`0 0 ${ACROSS} ${ACROSS * ratio}`}
          preserveAspectRatio="none"
          className="absolute inset-0 h-full w-full"
          aria-hidden="true"
        >
          {ink.map((mark) => (
            <g
              key={mark.id}
              data-ink={mark.id}
              className={classes("ink", mark.id === chosen && "ink-chosen")}
              onClick={() => onChoose(mark.id)}
            >
              {mark.strokes.map((stroke, n) => (
                <InkStroke key={n} stroke={stroke} ratio={ratio} />
              ))}
            </g>
          ))}
        </svg>
      ) : null}
      {marks.map((mark) => (
        <One
          key={mark.id}
          mark={mark}
          number={numbers.get(mark.id) ?? 0}
          chosen={mark.id === chosen}
          onChoose={onChoose}
          {...(mark.fixed ? {} : { onGrab, onNudge, onLeft })}
        />
      ))}
    </div>
  );
}

function One({
  mark,
  number,
  chosen,
  onChoose,
  onGrab,
  onNudge,
  onLeft,
}: { mark: PlacedMark; number: number; chosen: boolean } & Pick<
  Props,
  "onChoose" | "onGrab" | "onNudge" | "onLeft"
>) {
  const { place } = mark;
  const area = areaOf(place);
  if (!area) return null;
  const choose = () => onChoose(mark.id);
  const grab = (how: "move" | "size") => (event: React.PointerEvent) => {
    if (event.button !== 0 || !onGrab) return;
    choose();
    onGrab(mark, how, event);
  };
  const label = onGrab
    ? `${mark.label}. Arrows move it${mark.kind === "note" ? ", with Alt they size it" : ""}`
    : mark.label;
  const moving = onGrab
    ? {
        "data-arrows": true,
        onPointerDown: grab("move"),
        onBlur: onLeft,
        onKeyDown: (event: React.KeyboardEvent) => {
          if (!onNudge?.(mark, event)) return;
          event.preventDefault();
          event.stopPropagation();
          choose();
        },
      }
    : {};
  if (place.on === "page" && place.words) {
    return (
      <>
        {place.words.boxes.map((box, n) => (
          <span
            key={n}
            className={classes(
              "on-page",
              `on-page-${mark.kind === "note" ? mark.tone : mark.kind}`,
              chosen && "on-page-chosen",
            )}
            style={percent(box)}
            aria-hidden="true"
            onClick={choose}
          />
        ))}
        <button
          type="button"
          data-mark={mark.id}
          className={classes("pin pin-words", `pin-${mark.tone}`, chosen && "pin-chosen")}
          style={{
            left: `${place.words.boxes[0]?.x ?? area.x}%`,
            top: `${place.words.boxes[0]?.y ?? area.y}%`,
          }}
          aria-label={mark.label}
          title={mark.label}
          onClick={choose}
        >
          {onPin(mark, number)}
        </button>
      </>
    );
  }
  if (mark.kind === "ink")
    return (
      <button
        type="button"
        data-mark={mark.id}
        className="pin pin-ink"
        style={{ left: `${area.x}%`, top: `${area.y}%` }}
        aria-label={mark.label}
        title={label}
        onClick={choose}
        {...moving}
      >
        ✎
      </button>
    );
  if (isStamp(mark)) {
    return (
      <button
        type="button"
        data-mark={mark.id}
        className={classes("stamped", `stamped-${mark.kind}`, chosen && "pin-chosen")}
        style={{ left: `${area.x}%`, top: `${area.y}%` }}
        aria-label={mark.label}
        title={label}
        onClick={choose}
        {...moving}
      >
        {signOf(mark)}
      </button>
    );
  }
  const pin = (
    <button
      type="button"
      data-mark={mark.id}
      className={classes("pin", `pin-${mark.tone}`, chosen && "pin-chosen")}
      aria-label={mark.label}
      title={label}
      onClick={choose}
      {...moving}
    >
      {number || "+"}
    </button>
  );
  // A pin that becomes an area stays the same button, so that the focus stays on it.
  return (
    <span
      className={
        isPoint(area)
          ? "pin-spot"
          : classes("pin-area", `pin-area-${mark.tone}`, chosen && "pin-area-chosen")
      }
      style={percent(area)}
    >
      {pin}
      {chosen && onGrab && !isPoint(area) ? (
        <span className="pin-corner" aria-hidden="true" onPointerDown={grab("size")} />
      ) : null}
    </span>
  );
}

/** What stands on a pin: the sign of a stamp, the proof-reader's sign, or the number of a note. */
function onPin(mark: PlacedMark, number: number | undefined): string | number {
  if (isStamp(mark)) return signOf(mark);
  if (mark.kind === "insert" || mark.kind === "replace") return `‸${mark.replacement}`;
  if (mark.kind === "delete") return "⌿";
  return mark.kind === "transpose" ? "∽" : number || "+";
}

import type { CSSProperties, ReactNode, Ref } from "react";
import { isOnSide, type Turn } from "@/core/marks/turn";
import { Button } from "../kit/Button";
import { classes } from "../kit/classes";

type Props = {
  /** Height over width of the page or picture, upright. */ shape: number;
  turn: Turn;
  /** What `useTurn` knows it by. */ turns: string;
  /** Of what is seen. */ style?: CSSProperties;
  className?: string;
  surfaceRef?: Ref<HTMLDivElement>;
  children: ReactNode;
};

/**
 * What marks stand on: a page or a picture, turned on the screen as its reader wants it. All that lies on it turns along;
 * what must be read upright (the numbers of pins) turns back by `--turn`.
 */
export function Surface({ shape, turn, turns, style, className, surfaceRef, children }: Props) {
  const seen = isOnSide(turn) ? 1 / shape : shape;
  const inner: CSSProperties =
    turn === 0
      ? { inset: 0 }
      : {
          left: "50%",
          top: "50%",
          width: isOnSide(turn) ? `${seen * 100}%` : "100%",
          aspectRatio: `1 / ${shape}`,
          transform: `translate(-50%, -50%) rotate(${turn}deg)`,
        };
  return (
    <div
      className={classes("relative", className)}
      style={{ ...style, aspectRatio: `1 / ${seen}` }}
    >
      <div
        ref={surfaceRef}
        className="absolute"
        style={{ ...inner, "--turn": `${turn}deg` } as CSSProperties}
        data-surface
        data-turn={turn}
        data-turns={turns}
      >
        {children}
      </div>
    </div>
  );
}

/** Turns what is seen a quarter, clockwise; the file stays as it is. */
export function TurnButton({
  what,
  turn,
  onTurn,
}: {
  what: string;
  turn: Turn;
  onTurn: () => void;
}) {
  return (
    <Button
      small
      ink="quiet"
      className="sm:min-h-6! py-0"
      onClick={onTurn}
      aria-label={`Turn ${what} on the screen${turn === 0 ? "" : `; it is turned by ${turn} degrees`}`}
      title="Turned on the screen only (Shift R)"
    >
      Turn ↻
    </Button>
  );
}

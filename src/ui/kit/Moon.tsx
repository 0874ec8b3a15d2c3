import { sayState } from "@/core/views/states";
import type { MoonView } from "@/core/views/views";

/**
 * How far a piece is, in one drawing: an empty ring (not opened), a crescent (started), full (handed
 * in), full with a ring (handed back), half with a turning arrow (back to revise); from the second
 * round on its number stands inside, a notch at the rim is lateness, a dash is excused.
 */
export function Moon({
  moon,
  size = 22,
  named = true,
}: {
  moon: MoonView;
  size?: number;
  named?: boolean;
}) {
  const words = sayState(moon);
  const excused = moon.excused && (moon.state === "not_opened" || moon.state === "started");
  const ink = excused ? "var(--ink-soft)" : inkOf(moon);
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 24 24"
      className="inline-block shrink-0 align-middle"
      {...(named ? { role: "img", "aria-label": words } : { "aria-hidden": true })}
    >
      {named ? <title>{words}</title> : null}
      {excused ? (
        <line x1="5" y1="12" x2="19" y2="12" stroke={ink} strokeWidth="2" />
      ) : (
        <Face moon={moon} ink={ink} />
      )}
      {(moon.late || moon.missing) && !excused ? (
        <path
          d="M18.5 2.2 L23 1 L22 5.6 Z"
          fill="var(--ember)"
          stroke="var(--ember)"
          strokeWidth="1.2"
          strokeLinejoin="round"
        />
      ) : null}
    </svg>
  );
}

function inkOf(moon: MoonView): string {
  switch (moon.state) {
    case "handed_back":
      return "var(--moss)";
    case "to_revise":
    case "reworking":
      return "var(--plum)";
    case "handed_in":
      return "var(--tide)";
    default:
      return moon.missing ? "var(--ember)" : "var(--ink-soft)";
  }
}

function Face({ moon, ink }: { moon: MoonView; ink: string }) {
  const number = moon.round > 1 ? moon.round : null;
  const inside = (fill: string) =>
    number ? (
      <text
        x="12"
        y="12.4"
        textAnchor="middle"
        dominantBaseline="middle"
        fontSize="10"
        fontWeight="700"
        fill={fill}
        fontFamily="var(--font-sans)"
      >
        {number}
      </text>
    ) : null;
  switch (moon.state) {
    case "not_opened":
      return <circle cx="12" cy="12" r="7.5" fill="none" stroke={ink} strokeWidth="1.6" />;
    case "started":
      return (
        <>
          <circle cx="12" cy="12" r="7.5" fill="none" stroke={ink} strokeWidth="1" />
          <path d="M12 4.5 A7.5 7.5 0 0 0 12 19.5 A10.5 10.5 0 0 1 12 4.5 Z" fill={ink} />
        </>
      );
    case "handed_in":
      return (
        <>
          <circle cx="12" cy="12" r="8" fill={ink} />
          {inside("var(--paper)")}
        </>
      );
    case "handed_back":
      return (
        <>
          <circle cx="12" cy="12" r="6.5" fill={ink} />
          <circle cx="12" cy="12" r="9.6" fill="none" stroke={ink} strokeWidth="1.4" />
          {inside("var(--paper)")}
        </>
      );
    case "to_revise":
    case "reworking":
      return (
        <>
          <path d="M12 4.5 A7.5 7.5 0 0 0 12 19.5 Z" fill={ink} />
          <circle
            cx="12"
            cy="12"
            r="7.5"
            fill="none"
            stroke={ink}
            strokeWidth={moon.state === "reworking" ? 1.6 : 1}
            strokeDasharray={moon.state === "reworking" ? undefined : "2.4 1.8"}
          />
          <path d="M14 1.8 A10.4 10.4 0 0 1 22 9" fill="none" stroke={ink} strokeWidth="1.5" />
          <path d="M22.9 5.6 L22.2 9.8 L18.6 7.6 Z" fill={ink} />
          {number ? (
            <text
              x="15.6"
              y="12.6"
              textAnchor="middle"
              dominantBaseline="middle"
              fontSize="8.5"
              fontWeight="700"
              fill={ink}
              fontFamily="var(--font-sans)"
            >
              {number}
            </text>
          ) : null}
        </>
      );
  }
}

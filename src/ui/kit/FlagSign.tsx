import type { Sign } from "@/core/pieces/flags";

/** Each flag has a shape, a letter and a word: none of them is told by its colour alone. */
const SHAPES: Readonly<Record<Sign, { letter: string; path: string; ink: string }>> = {
  late: { letter: "L", path: "M2 2 H18 V10 L10 18 H2 Z", ink: "var(--ember)" },
  "on time": { letter: "T", path: "M2 10 L10 2 L18 10 V18 H2 Z", ink: "var(--moss)" },
  missing: { letter: "M", path: "M3 3 H17 V17 H3 Z", ink: "var(--ember)" },
  away: { letter: "A", path: "M10 1.5 L18.5 10 L10 18.5 L1.5 10 Z", ink: "var(--tide)" },
  unfinished: { letter: "U", path: "M2 2 H18 V8 A8 8 0 0 1 2 8 Z", ink: "var(--plum)" },
  "on paper": { letter: "P", path: "M4 1.5 H12 L17 6.5 V18.5 H4 Z", ink: "var(--ink-soft)" },
  excused: {
    letter: "E",
    path: "M1.5 10 A8.5 8.5 0 1 1 18.5 10 A8.5 8.5 0 1 1 1.5 10",
    ink: "var(--ink-soft)",
  },
};

export function FlagSign({ flag, size = 16 }: { flag: Sign; size?: number }) {
  const { letter, path, ink } = SHAPES[flag];
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 20 20"
      className="inline-block shrink-0"
      aria-hidden="true"
      data-flag={flag}
    >
      <path d={path} fill="none" stroke={ink} strokeWidth="1.5" strokeLinejoin="round" />
      <text
        x="10"
        y="10.4"
        textAnchor="middle"
        dominantBaseline="middle"
        fontSize="11"
        fontWeight="700"
        fill={ink}
        fontFamily="var(--font-sans)"
      >
        {letter}
      </text>
    </svg>
  );
}

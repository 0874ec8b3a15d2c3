"use client";

import { Toolbar } from "radix-ui";
import { useEffect, useState } from "react";

/** Looks of the page one writes on, and of its headings: of no weight for what is handed in; it prints so. */
const PAGES = [
  { value: "book", words: "Book" },
  { value: "plain", words: "Plain and large" },
  { value: "ruled", words: "Ruled paper" },
  { value: "squared", words: "Squared paper" },
] as const;
const HEADS = [
  { value: "plain", words: "Plain" },
  { value: "line", words: "With a line" },
  { value: "middle", words: "In the middle" },
] as const;
export type Look = {
  page: (typeof PAGES)[number]["value"];
  heads: (typeof HEADS)[number]["value"];
};

const KEY = "almanac look";
const USUAL: Look = { page: "book", heads: "plain" };

export const lookClass = ({ page, heads }: Look): string => `look-${page} heads-${heads}`;

/** What is kept on the device: "ruled", or with the headings "ruled line". Anything else is as it comes. */
function lookOf(kept: string | null): Look {
  const [page, heads] = (kept ?? "").split(" ");
  return {
    page: PAGES.find((one) => one.value === page)?.value ?? USUAL.page,
    heads: HEADS.find((one) => one.value === heads)?.value ?? USUAL.heads,
  };
}

export function useLook(): [Look, (look: Look) => void] {
  const [look, setLook] = useState(USUAL);
  useEffect(() => {
    // Only known on the device, so not before the page is there.
    // eslint-disable-next-line react-hooks/set-state-in-effect
    setLook(lookOf(localStorage.getItem(KEY)));
  }, []);
  return [
    look,
    (next) => {
      setLook(next);
      localStorage.setItem(KEY, `${next.page} ${next.heads}`);
    },
  ];
}

/** Choosing them, at the end of the tools for writing. */
export function LookTools({ look, setLook }: { look: Look; setLook: (look: Look) => void }) {
  return (
    <>
      <Choice
        words="Page"
        label="Look of the page"
        value={look.page}
        choices={PAGES}
        onChoose={(page) => setLook({ ...look, page })}
      />
      <Choice
        words="Headings"
        label="Look of headings"
        value={look.heads}
        choices={HEADS}
        onChoose={(heads) => setLook({ ...look, heads })}
      />
    </>
  );
}

function Choice<T extends string>({
  words,
  label,
  value,
  choices,
  onChoose,
}: {
  words: string;
  label: string;
  value: T;
  choices: readonly { value: T; words: string }[];
  onChoose: (value: T) => void;
}) {
  return (
    <label className="inline-flex min-h-9 items-center gap-1 px-1.5 text-sm max-sm:min-h-11">
      <span>{words}</span>
      <Toolbar.Button asChild type={undefined}>
        <select
          aria-label={label}
          className="min-h-8 border border-line bg-paper px-1 max-sm:min-h-11"
          value={value}
          onChange={(event) => onChoose(event.target.value as T)}
        >
          {choices.map((one) => (
            <option key={one.value} value={one.value}>
              {one.words}
            </option>
          ))}
        </select>
      </Toolbar.Button>
    </label>
  );
}

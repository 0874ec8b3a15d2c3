"use client";

import { useCallback, useMemo, useRef, useState } from "react";
import { itemOf, type Place } from "@/core/marks/place";
import { isEmptyDoc, plainText } from "@/core/text/plainText";
import type { Range } from "@/core/text/selectors";
import type { ShownView } from "@/core/views/lookViews";
import { drawnOnWords, isOnFile, placedMark } from "../marks/answered";
import type { ItemView } from "@/core/views/workViews";
import { FilesHere } from "../text/FileHere";
import { Notice } from "../kit/Notice";
import { inReadingOrder, numbersOf } from "../marks/drawn";
import { RichText, type DrawnMark } from "../text/RichText";
import { useMargin } from "../text/useMargin";
import { MARGIN, NOTE, useNarrow, useUnderWords } from "../text/useUnderWords";
import { ClipsProvider } from "../voice/clips";
import { AloudProvider } from "../voice/Hear";
import { SayOfShown, type About } from "./SayOfShown";
import { ShownFile } from "./ShownFile";
import { ShownMarkNote } from "./ShownMarkNote";
import { useChosenWords } from "./useChosenWords";

type Props = { view: ShownView; onView: (view: ShownView) => void; reload: () => Promise<void> };

/** Work that is shown to someone for a time, with what is said of it beside its words, and where one says something. */
export function ShownWork({ view, onView, reload }: Props) {
  return (
    <ClipsProvider clips={view.clips} mostSeconds={view.mostSeconds}>
      <AloudProvider first={false}>
        <Work view={view} onView={onView} reload={reload} />
      </AloudProvider>
    </ClipsProvider>
  );
}

function Work({ view, onView, reload }: Props) {
  const sheet = useRef<HTMLDivElement>(null);
  const margin = useRef<HTMLDivElement>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const [place, setPlace] = useState<Place | null>(null);
  const [range, setRange] = useChosenWords(sheet);
  const text = useMemo(() => plainText(view.doc).text, [view.doc]);
  const marks = useMemo(() => inReadingOrder(view.marks), [view.marks]);
  const placed = useMemo(() => marks.filter(isOnFile).map(placedMark), [marks]);
  const numbers = useMemo(() => numbersOf(placed), [placed]);
  const words = useCallback(() => sheet.current, []);
  const narrow = useNarrow();
  const asked = { sheet: words, margin, ids: marks.map((m) => m.id), signal: chosen };
  const beside = useMargin({ ...asked, on: !narrow });
  const under = useUnderWords({ ...asked, on: narrow });
  const tops = narrow ? under : beside.tops;
  const about = aboutWhat(place, range, text);
  const clear = () => {
    setPlace(null);
    setRange(null);
  };
  const file = (item: ItemView | undefined) =>
    item ? (
      <ShownFile
        key={item.id}
        item={item}
        marks={placed.filter((m) => itemOf(m.place) === item.id)}
        numbers={numbers}
        chosen={chosen}
        onChoose={setChosen}
        onPlace={view.maySay ? setPlace : null}
      />
    ) : null;
  return (
    <>
      <Question view={view} />
      <div className="relative grid gap-x-8 lg:grid-cols-[minmax(0,42rem)_minmax(16rem,22rem)]">
        <div ref={sheet} className="min-w-0">
          {isEmptyDoc(view.doc) ? null : (
            <FilesHere value={(id) => file(view.items.find((one) => one.id === id))}>
              <RichText
                doc={view.doc}
                marks={[...askedOf(view), ...drawnOnWords(marks)]}
                chosen={chosen}
                onMark={setChosen}
              />
            </FilesHere>
          )}
          {view.items.filter((item) => !item.inText).map(file)}
        </div>
        <div className="max-lg:mt-6">
          {view.maySay ? (
            <SayOfShown view={view} about={about} onClear={clear} onView={onView} />
          ) : (
            <WhyNot view={view} />
          )}
          <div
            ref={margin}
            className={MARGIN}
            style={{ minHeight: narrow ? 0 : beside.height }}
            role="complementary"
            aria-label="What was said of it"
          >
            {marks.map((mark) => (
              <div
                key={mark.id}
                data-note={mark.id}
                className={NOTE}
                style={{ top: tops.get(mark.id) ?? 0, opacity: tops.has(mark.id) ? 1 : 0 }}
              >
                <ShownMarkNote
                  mark={mark}
                  number={numbers.get(mark.id)}
                  chosen={chosen === mark.id}
                  onChoose={() => setChosen(mark.id)}
                  reload={reload}
                />
              </div>
            ))}
          </div>
        </div>
      </div>
    </>
  );
}

function aboutWhat(place: Place | null, range: Range | null, text: string): About {
  if (place) return { place };
  return range && { range, words: text.slice(range.start, range.end) };
}

/** The words a look asks about, drawn like a request on them. */
function askedOf({ question, lookId }: ShownView): DrawnMark[] {
  if (!question?.at || !lookId) return [];
  const drawn = { kind: "note", tone: "request", replacement: "" } as const;
  return [{ ...drawn, ...question.at, id: lookId, label: `the question: ${question.words}` }];
}

function Question({ view }: { view: ShownView }) {
  if (!view.question) return null;
  const { words, quote } = view.question;
  const who = view.own ? "You ask" : `${view.writer} asks`;
  return (
    <blockquote className="mb-5 max-w-[42rem] border-l-4 border-ember pl-4">
      <p className="label">
        {who} {sayReader(view)}, {view.asked}
      </p>
      <p className="font-serif text-lg">{words}</p>
      {quote ? <p className="text-soft">about “{quote}”</p> : null}
    </blockquote>
  );
}

/** To its reader a look is theirs; to others it is a name's. */
function sayReader({ reader, voiceOf, own }: ShownView): string {
  if (reader === null) return "the teacher";
  return voiceOf && !own ? "you" : reader;
}

function WhyNot({ view }: { view: ShownView }) {
  const words = view.open
    ? "This is your own work. What is said of it stands here, and beside your words on its page."
    : `This closed ${view.until}. What was said stays.`;
  return (
    <Notice ink="tide" className="mb-4">
      {words}
    </Notice>
  );
}

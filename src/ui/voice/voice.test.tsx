import { describe, expect, test } from "@jest/globals";
import { renderToStaticMarkup } from "react-dom/server";
import type { ClipView } from "@/core/views/voiceViews";
import type { PlacedMark } from "../marks/drawn";
import { Lane } from "../marks/Lane";
import { isNow } from "../marks/usePlayer";
import { ClipsProvider } from "./clips";
import { AloudProvider, Hear } from "./Hear";
import { HearAll } from "./HearAll";
import { VoiceNote } from "./VoiceNote";

const words = [
  { word: "Well", start: 0, end: 0.4, sure: 0.9 },
  { word: "done.", start: 0.4, end: 0.8, sure: 0.2 },
];
const clip = (more: Partial<ClipView> = {}): ClipView => ({
  id: "a",
  href: "/api/clips/a/sound",
  seconds: 65,
  state: "ready",
  peaks: [10, 100, 50],
  by: "Odalys Brandt",
  mine: false,
  shows: "words",
  title: "",
  transcript: { state: "made", why: null, part: 1, by: null, words },
  heard: true,
  heardByStudent: null,
  mayChange: false,
  revision: 1,
  ...more,
});
const shown = (one: ClipView) =>
  renderToStaticMarkup(
    <ClipsProvider clips={[one]} mostSeconds={60}>
      <VoiceNote clipId="a" />
    </ClipsProvider>,
  );
const text = (html: string) => html.replace(/<[^>]+>/g, " ").replace(/\s+/g, " ");

describe("a voice where it stands", () => {
  test("its words are the program's until someone has looked, and the doubtful ones are marked", () => {
    const html = shown(clip());
    expect(text(html)).toContain("Well done. Words made by the program; they can be wrong.");
    expect(html).toMatch(/class="doubtful"[^>]*>done\./);
    expect(html).not.toMatch(/class="doubtful"[^>]*>Well/);
    expect(
      text(shown(clip({ transcript: { ...clip().transcript, by: "Odalys Brandt" } }))),
    ).not.toContain("Words made by the program");
  });
  test("a title in their place, or nothing", () => {
    const titled = text(shown(clip({ shows: "title", title: "next step" })));
    expect(titled).toContain("next step");
    expect(titled).not.toContain("Well");
    expect(text(shown(clip({ shows: "nothing" })))).not.toContain("Well");
  });
  test("while it is made, how far it is; and why there are no words", () => {
    expect(
      text(
        shown(
          clip({
            state: "being made",
            transcript: { ...clip().transcript, state: "being made", part: 0.42, words: [] },
          }),
        ),
      ),
    ).toContain("Its words are being written down: 42 %");
    expect(
      text(
        shown(
          clip({
            transcript: {
              state: "none",
              why: "No recogniser is installed.",
              part: 0,
              by: null,
              words: [],
            },
          }),
        ),
      ),
    ).toContain("No recogniser is installed.");
  });
  test("what can be done: by its maker and teachers only; not heard is said to the one who has not", () => {
    expect(text(shown(clip({ mayChange: true })))).toContain("Correct the words");
    expect(text(shown(clip()))).not.toContain("Correct");
    expect(text(shown(clip({ heard: false })))).toContain("not heard yet");
    expect(text(shown(clip({ heardByStudent: "today 10:12" })))).toContain("heard today 10:12");
  });
  test("the player names itself, its place and its length for readers", () => {
    const html = shown(clip());
    expect(html).toContain('aria-label="Play voice of Odalys Brandt"');
    expect(html).toMatch(/role="slider"[^>]*aria-valuemax="65"/);
    expect(html).toContain('aria-valuetext="0:00 of 1:05"');
    expect(html.match(/<rect/g)).toHaveLength(3);
    expect(html.match(/<option/g)).toHaveLength(5);
  });
  test("without a voice there is nothing, not even a provider is needed", () => {
    expect(renderToStaticMarkup(<VoiceNote clipId={null} />)).toBe("");
  });
});

test("all voices of a piece: how many, how long, how many not heard", () => {
  const all = (clips: ClipView[]) =>
    text(
      renderToStaticMarkup(
        <ClipsProvider clips={clips} mostSeconds={60}>
          <HearAll of={clips.map((c) => ({ id: `m${c.id}`, clipId: c.id }))} />
        </ClipsProvider>,
      ),
    );
  expect(all([clip({ heard: false }), clip({ id: "b", seconds: 10 })])).toContain(
    "Hear all 2 voice notes 75 s, 1 not heard yet",
  );
  expect(all([clip()])).toContain("Hear the voice note 65 s, all heard");
  expect(all([])).toBe("");
});

test("texts can be heard where that is on, and only then", () => {
  const hear = (on: boolean) =>
    renderToStaticMarkup(
      <AloudProvider first={on}>
        <Hear text="Well seen." />
      </AloudProvider>,
    );
  expect([
    text(hear(true)).includes("Hear it"),
    hear(false),
    renderToStaticMarkup(<Hear text="x" />),
  ]).toEqual([true, "", ""]);
});

describe("the lane", () => {
  const mark = (
    id: string,
    from: number,
    to: number | null,
    tone: PlacedMark["tone"] = "note",
  ): PlacedMark => ({
    id,
    kind: "note",
    body: "b",
    replacement: "",
    quote: "",
    place: { on: "time", itemId: "i", from, to },
    strokes: [],
    tone,
    label: `note ${id}`,
    fixed: false,
  });
  const drawn = (begun: number | null = null) =>
    renderToStaticMarkup(
      <Lane
        marks={[mark("one", 30, null, "request"), mark("two", 60, 90)]}
        player={{ at: 45, seconds: 120, playing: false }}
        chosen="two"
        begun={begun}
        now={() => 45}
        onSeek={() => {}}
        onChoose={() => {}}
      />,
    );
  test("moments and stretches stand where they are, as long as they are; each with its words for readers", () => {
    const html = drawn();
    expect(html).toMatch(
      /class="lane-mark lane-request" style="left:25%;[^"]*"[^>]*title="note one"/,
    );
    expect(html).toMatch(
      /class="lane-mark lane-note lane-chosen" style="left:50%;[^"]*width:25%;min-width:1.5rem"/,
    );
    expect(html).toContain('aria-valuetext="0:45 of 2:00"');
  });
  test("a stretch that was begun reaches to where the recording is", () => {
    expect(drawn(15)).toMatch(/left:12.5%;width:25%/);
    expect(drawn()).not.toContain("border-plum");
  });
  test("a note on a moment is in view for four seconds, one on a stretch as long as it lasts", () => {
    expect([9.8, 9.9, 13.9, 14].map((at) => isNow({ from: 10, to: null }, at))).toEqual([
      false,
      true,
      true,
      false,
    ]);
    expect([10, 29.9, 30].map((at) => isNow({ from: 10, to: 30 }, at))).toEqual([
      true,
      true,
      false,
    ]);
  });
});

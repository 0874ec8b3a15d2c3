import type { Call, Person } from "../src/server/call";
import { answerToClass, sayToClass, showAnswer } from "../src/server/sectionNotes/sectionNotes";
import { putVoice } from "./voices";

type Talk = {
  title: string;
  says: string;
  /** Of the teacher's voice, in place of words. */ spoken?: string;
  answers: {
    from: number;
    says: string;
    spoken?: string;
    /** Whether a teacher has let the class see it. */ shown: boolean;
  }[];
};

/** What the same mistake in many pieces made Odalys Brandt say to all at once, and what students answered. */
const TALKS: readonly Talk[] = [
  {
    title: "Rainfall log and its graph",
    says: "In eleven of your logs the table has no unit. A number alone does not say: write mm in the head of the column, once. Look at yours before you hand it in again.",
    answers: [
      {
        from: 3,
        says: "Mine says cm because the bottle has cm on it. Is that wrong?",
        shown: true,
      },
      {
        from: 11,
        says: "It is not wrong, but then you need to write cm and 2.3, not 23.",
        shown: true,
      },
      { from: 17, says: "what if it was 0 the whole week 😭", shown: false },
    ],
  },
  {
    title: "Reading the tide table",
    says: "",
    spoken: "note-4",
    answers: [
      { from: 2, says: "", spoken: "reply-3", shown: true },
      {
        from: 6,
        says: "Which third row, the one for Tuesday or the one with the neap tide?",
        shown: false,
      },
    ],
  },
];

type Step = { minutes: number; run: (call: Omit<Call, "who">) => Promise<void> };

/** What is said to the class of one hand-out, in its order, as minutes after the first word. */
export function talkAbout(
  title: string,
  handOutId: string,
  owner: Person,
  students: readonly Person[],
  pieceOf: (studentId: string) => string | undefined,
): Step[] {
  const talk = TALKS.find((t) => t.title === title);
  if (!talk) return [];
  let noteId: string;
  const first: Step = {
    minutes: 0,
    async run(call) {
      const as = { ...call, who: owner };
      const { notes } = await sayToClass(as, handOutId, {
        body: talk.says,
        clipId: talk.spoken ? await putVoice(as, talk.spoken, null) : null,
      });
      noteId = notes.at(-1)!.id;
    },
  };
  const answers = talk.answers.flatMap((answer, n): Step[] => {
    const student = students[answer.from];
    const pieceId = student && pieceOf(student.id);
    if (!pieceId) return [];
    return [
      {
        minutes: 50 + n * 35,
        async run(call) {
          const as = { ...call, who: student };
          const { notes } = await answerToClass(as, noteId, {
            body: answer.says,
            clipId: answer.spoken ? await putVoice(as, answer.spoken, pieceId) : null,
          });
          const said = notes.find((note) => note.id === noteId)!.answers.at(-1)!;
          if (answer.shown) await showAnswer({ ...call, who: owner }, said.id, { shown: true });
        },
      },
    ];
  });
  return [first, ...answers];
}

import {
  emptyPlan,
  HOW_DID_IT_GO,
  type Plan,
  type PlanMaterial,
  type PlanRow,
} from "../src/core/handouts/plan";
import { scoreOf, type Picks, type Rubric } from "../src/core/rubrics/rubric";
import { schoolDayFrom, type SchoolCalendar } from "../src/core/time/term";
import { addDays, dayOf, instantToWall, wallToInstant } from "../src/core/time/zone";
import { isEdit } from "../src/core/marks/mark";
import { type Nature } from "@/core/marks/schema";
import { markFiles, markMore, speak } from "./marking";
import { talkAbout } from "./classTalk";
import { putVoice } from "./voices";
import { fillPlaceholders } from "../src/core/comments/placeholders";
import { setException } from "../src/server/handouts/exceptions";
import { handOut } from "../src/server/handouts/handOut";
import { withdraw } from "../src/server/handouts/withdraw";
import { addUpload, lookAtUpload } from "../src/server/uploads/uploads";
import { answerMark, sendMessage } from "../src/server/pieces/answers";
import { handIn, openPiece, saveWork, takeBack } from "../src/server/pieces/moves";
import type { GivenWork } from "../src/server/pieces/work";
import { EMPTY_DOC, type RichDoc } from "../src/core/text/richDoc";
import {
  readContent,
  readHandBacks,
  readVersions,
  readWorkingCopy,
} from "../src/server/life/queries";
import { openDraft, saveFeedback } from "../src/server/marking/draft";
import { addMark } from "../src/server/marking/marks";
import { handBack } from "../src/server/handingBack/handBack";
import { readFeedback } from "../src/server/marking/queries";
import { rule } from "../src/server/marking/rulings";
import type { Call, Person } from "../src/server/call";
import type { Tx } from "../src/server/db/connection";
import { BANK, FINDERS, kindOfWork, OVERALL, QUESTIONS, REPLIES } from "./bank";
import type { DemoHandOut } from "./handouts";
import { drawRainGauge } from "./picture";
import { anyOf, between, chance, seeded, upTo, type Random } from "./random";
import { sendCheckpoint } from "../src/server/pieces/checkpoints";
import { partsOf, tideAnswers, type Beside, type DemoFiles } from "./work";
import { reviseBlocks } from "./texts/revise";
import { toDoc, type Block } from "./texts/blocks";
import { MISTAKES, withMistakes } from "./texts/mistakes";

/**
 * Plays six weeks of school through the application's own use-cases, in the order of the clock, so
 * that everything in the demo is something that could have been done by hand.
 */
export type Stage = {
  setId: string;
  files: DemoFiles;
  tx: Tx;
  now: Date;
  zone: string;
  calendar: SchoolCalendar;
  rubrics: Map<string, { id: string; rubric: Rubric }>;
  newId: () => string;
  teachers: Map<string, Person>;
  sections: Map<string, DemoSection>;
  comments: Map<string, string>;
};
export type DemoSection = { id: string; owner: Person; co: Person | null; students: DemoStudent[] };
export type DemoStudent = Person & {
  /** 0 careful … 1 careless */ slips: number;
  /** hours before due; negative: late */ habit: number;
  size: number;
};

type Step = { at: Date; run: (call: Omit<Call, "who">) => Promise<void> };
const HOUR = 3_600_000;

export class Play {
  private readonly steps: Step[] = [];
  /** What stands in the writing of a piece beside its words. */
  private readonly beside = new Map<string, Beside>();
  constructor(private readonly stage: Stage) {}

  /** Runs all steps that lie before now, earliest first; a step may plan further ones. */
  async run(): Promise<void> {
    const { stage, steps } = this;
    for (;;) {
      let first = -1;
      steps.forEach((step, n) => {
        if (first === -1 || step.at < steps[first]!.at) first = n;
      });
      if (first === -1) return;
      const [step] = steps.splice(first, 1);
      if (step!.at > stage.now) continue;
      await step!.run({ tx: stage.tx, db: stage.tx, now: step!.at, newId: stage.newId });
    }
  }

  private plan(at: Date, run: Step["run"]): void {
    this.steps.push({ at, run });
  }

  private instant(offset: number, clock: string): Date {
    const day = schoolDayFrom(
      addDays(dayOf(this.stage.now, this.stage.zone), offset),
      this.stage.calendar,
    );
    return wallToInstant(`${day}T${clock}`, this.stage.zone).at;
  }

  private wall(offset: number, clock: string): string {
    return `${schoolDayFrom(addDays(dayOf(this.stage.now, this.stage.zone), offset), this.stage.calendar)}T${clock}`;
  }

  /** Work that several sections of a teacher have is handed out to them at once, each with its own dates. */
  handOut(given: DemoHandOut, others: readonly DemoHandOut[] = []): void {
    const all = [given, ...others];
    const { owner } = this.stage.sections.get(given.section)!;
    // What is to open later was written and handed out already.
    const at = Math.min(
      ...all.map((h) => this.instant(h.opens, "08:15").getTime()),
      this.stage.now.getTime() - 60_000,
    );
    this.plan(new Date(at), async (call) => {
      const { handOuts } = await handOut(
        { ...call, who: owner },
        {
          plan: await this.planFor({ ...call, who: owner }, all),
          draftId: null,
          pastIsMeant: false,
        },
      );
      for (const { id, sectionId } of handOuts) {
        const own = all.find((h) => this.stage.sections.get(h.section)!.id === sectionId)!;
        const section = this.stage.sections.get(own.section)!;
        if (own.withdrawn !== undefined)
          this.plan(
            this.instant(own.withdrawn, "18:40"),
            async (later) => void (await withdraw({ ...later, who: owner }, id, true)),
          );
        const pieces = await call.tx<
          { id: string; studentId: string }[]
        >`select id, student_id from piece where hand_out_id = ${id}`;
        const opens = new Date(
          Math.max(call.now.getTime(), this.opensOf(own, all, call.now)?.getTime() ?? 0),
        );
        if (opens > this.stage.now || own.withdrawn !== undefined) continue;
        const spoke = this.instant(own.due, own.dueClock).getTime() + 5 * HOUR;
        for (const step of talkAbout(
          own.title,
          id,
          section.owner,
          section.students,
          (studentId) => pieces.find((p) => p.studentId === studentId)?.id,
        ))
          this.plan(new Date(spoke + step.minutes * 60_000), step.run);
        for (const [n, student] of section.students.entries()) {
          const piece = pieces.find((p) => p.studentId === student.id);
          if (piece) this.follow(own, section, student, piece.id, n, opens);
        }
      }
    });
  }

  /** When a row opens, where that is later than the handing out; null: at once. */
  private opensOf(given: DemoHandOut, all: readonly DemoHandOut[], now: Date): Date | null {
    const opens = this.instant(given.opens, "08:15");
    return (all.length > 1 || given.opens > 0) && opens > now ? opens : null;
  }

  private async planFor(call: Call, all: readonly DemoHandOut[]): Promise<Plan> {
    const given = all[0]!;
    const { work, counting } = emptyPlan();
    const upload = given.picture
      ? await lookAtUpload(call, { name: "rain gauge.png", bytes: await drawRainGauge() }).then(
          (kept) => addUpload(call, kept),
        )
      : null;
    const instructions = toDoc(given.instructions.map((text) => ({ kind: "paragraph", text })));
    if (upload)
      instructions.content.push({
        type: "picture",
        attrs: {
          upload: upload.id,
          alt: "A bottle cut open as a rain gauge, with a scale in millimetres",
        },
      });
    return {
      work: {
        ...work,
        title: given.title,
        numbered: given.numbered ?? false,
        emoji: given.emoji ?? "",
        instructions,
        parts:
          given.expects === "nothing" ? [] : partsOf(given.parts ?? ["writing"], this.stage.setId),
        clipId: await this.spokenTask(call, given.title),
        materials: (given.materials ?? []).map((name) => this.material(name)),
        selfAssessment: given.asks ? HOW_DID_IT_GO : null,
        wordsLeast: given.rubric === "Letter from a place" ? "250" : "",
      },
      rows: all.map((own): PlanRow => {
        const opens = this.opensOf(own, all, call.now);
        return {
          sectionId: this.stage.sections.get(own.section)!.id,
          opens: opens && instantToWall(opens, this.stage.zone),
          due: this.wall(own.due, own.dueClock),
          closes: own.closes === undefined ? null : this.wall(own.closes, "20:00"),
          promised: own.promised === undefined ? null : this.wall(own.promised, "17:00"),
          audience: { kind: "section" },
          exceptions: [],
        };
      }),
      counting: {
        ...counting,
        kind: given.points === "" ? "words" : (given.kind ?? "points"),
        points: given.points,
        category: given.category ?? "",
        graceMinutes: given.grace,
        rubricId: given.rubric ? this.stage.rubrics.get(given.rubric)!.id : null,
        final: given.final ?? "latest",
        roundsMost: given.final ? "3" : "",
      },
    };
  }

  /** Two tasks are spoken as well as written. */
  private async spokenTask(call: Call, title: string): Promise<string | null> {
    const key = title.startsWith("Letter from")
      ? "task-letter"
      : title.includes("Shipping forecast")
        ? "task-forecast"
        : null;
    return key && putVoice(call, key, null, { corrected: true });
  }

  private material(name: "tide service" | "report to fill in" | "notes on gauges"): PlanMaterial {
    const id = this.stage.newId();
    if (name === "tide service")
      return {
        id,
        kind: "link",
        use: "look",
        title: "Tide table of the harbour (link)",
        href: "https://tides.tern-island.example/table",
      };
    if (name === "notes on gauges")
      return {
        id,
        kind: "text",
        use: "look",
        title: "How to read a gauge",
        doc: toDoc([
          { kind: "item", text: "Eye level with the water, not above it." },
          { kind: "item", text: "Read the lowest part of the curve." },
          { kind: "item", text: "Empty it at the same time each day." },
        ]),
      };
    return {
      id,
      kind: "text",
      use: "copy",
      title: "Report to fill in",
      doc: toDoc(
        ["Question", "What I did", "What I saw", "What it means"].flatMap((text) => [
          { kind: "heading", text } as const,
          { kind: "paragraph", text: "" } as const,
        ]),
      ),
    };
  }

  /** One student's way with one hand-out. */
  private follow(
    given: DemoHandOut,
    section: DemoSection,
    student: DemoStudent,
    pieceId: string,
    n: number,
    handedOut: Date,
  ): void {
    const random = seeded(`${given.section} ${given.title} ${student.id}`);
    const due = this.instant(given.due, given.dueClock);
    if (given.expects === "nothing")
      return this.checkOnPaper(given, section, pieceId, due, random, n);
    if (n === 5 && given.revise > 0) return this.excuse(section, pieceId, due);
    const fate = random();
    if (n === 9 && given.closes === undefined) this.extend(section, pieceId, due);
    const opened = new Date(
      Math.max(
        handedOut.getTime() + (1 + random() * 9) * HOUR,
        due.getTime() - (30 + random() * 90) * HOUR,
      ),
    );
    if (fate < 0.045) return; // never opens it
    this.plan(opened, async (call) => void (await openPiece({ ...call, who: student }, pieceId)));
    const blocks = withMistakes(
      random,
      given.write(
        random,
        student.called,
        Math.min(1, Math.max(0, student.size + random() * 0.3 - 0.15)),
      ),
      student.slips,
    );
    const begins = new Date(opened.getTime() + random() * 20 * HOUR);
    this.plan(
      begins,
      async (call) =>
        void (await saveWork(
          { ...call, who: student },
          pieceId,
          workOf(given, student, blocks.slice(0, Math.ceil(blocks.length * 0.6))),
          0,
        )),
    );
    if (given.checkpoints && n % 4 === 1)
      return this.showOnTheWay(student, pieceId, blocks, begins);
    if (fate < 0.09) return; // begins and does not finish
    this.plan(this.handInTime(due, begins, student.habit, random, given), async (call) => {
      await this.stage.files.give(call, student, pieceId, given.parts ?? [], random, blocks);
      const beside =
        given.rubric === "Letter from a place" && n % 8 === 5
          ? await this.stage.files.putBeside(call, student, pieceId)
          : null;
      if (beside) this.beside.set(pieceId, beside);
      await handIn(
        { ...call, who: student },
        pieceId,
        {
          ...workOf(given, student, blocks, beside),
          self:
            given.asks && chance(random, 0.8)
              ? {
                  choice: anyOf(random, HOW_DID_IT_GO.choices),
                  words: chance(random, 0.3) ? anyOf(random, SAID) : "",
                }
              : null,
        },
        1,
      );
      if (chance(random, 0.05))
        await this.changeMind(
          { ...call, who: student },
          pieceId,
          workOf(given, student, blocks, beside),
        );
      this.planFeedback(given, section, student, pieceId, blocks, 1, call.now, due, random, n);
    });
    if (chance(random, 0.04))
      this.plan(
        new Date(Math.max(opened.getTime(), due.getTime() - 26 * HOUR)),
        async (call) =>
          void (await sendMessage({ ...call, who: student }, pieceId, {
            body: anyOf(random, QUESTIONS),
            markId: null,
          })),
      );
  }

  /** Shows the teacher where it stands, goes on, and shows it once more. */
  private showOnTheWay(student: DemoStudent, pieceId: string, blocks: Block[], begins: Date): void {
    const shares = [0.6, 0.9];
    shares.forEach((share, k) =>
      this.plan(new Date(begins.getTime() + (1 + k * 5) * HOUR), async (call) => {
        const copy = (await readWorkingCopy(call.tx, pieceId))!;
        await sendCheckpoint(
          { ...call, who: student },
          pieceId,
          { doc: toDoc(blocks.slice(0, Math.ceil(blocks.length * share))) },
          copy.revision,
        );
      }),
    );
  }

  /** Most in the last two hours, some early, some late by minutes or by days. */
  private handInTime(
    due: Date,
    after: Date,
    habit: number,
    random: Random,
    given: DemoHandOut,
  ): Date {
    const draw = random() + habit * 0.25;
    let hours: number;
    if (draw < 0.22) hours = -(12 + random() * 60);
    else if (draw < 0.72) hours = -random() * 2;
    else if (draw < 0.86) hours = -(2 + random() * 8);
    else if (draw < 0.95) hours = random() * 0.7;
    else if (draw < 1.05) hours = 3 + random() * 40;
    else hours = 48 + random() * 90;
    const last =
      given.closes === undefined ? Infinity : this.instant(given.closes, "20:00").getTime() - HOUR;
    const at = Math.max(after.getTime() + 10 * 60_000, due.getTime() + hours * HOUR);
    return new Date(Math.min(last, this.awake(at, random)));
  }

  /** Nobody hands in between one and six in the morning; they do it after breakfast. */
  private awake(at: number, random: Random): number {
    const hour = Number(instantToWall(new Date(at), this.stage.zone).slice(11, 13));
    return hour >= 1 && hour < 6 ? at + (6 - hour + random() * 2) * HOUR : at;
  }

  private async changeMind(call: Call, pieceId: string, work: GivenWork): Promise<void> {
    const later = { ...call, now: new Date(call.now.getTime() + 4 * 60_000) };
    const back = await call.tx
      .savepoint((tx) => takeBack({ ...later, tx, db: tx }, pieceId))
      .then(
        () => true,
        () => false,
      );
    if (back)
      await handIn({ ...later, now: new Date(later.now.getTime() + 5 * 60_000) }, pieceId, work, 2);
  }

  private excuse(section: DemoSection, pieceId: string, due: Date): void {
    this.plan(
      new Date(due.getTime() - 30 * HOUR),
      async (call) =>
        void (await setException({ ...call, who: section.owner }, pieceId, {
          due: null,
          excused: true,
          versionId: null,
          tell: true,
        })),
    );
  }

  private extend(section: DemoSection, pieceId: string, due: Date): void {
    const later = instantToWall(new Date(due.getTime() + 72 * HOUR), this.stage.zone);
    this.plan(
      new Date(due.getTime() - 20 * HOUR),
      async (call) =>
        void (await setException({ ...call, who: section.owner }, pieceId, {
          due: later,
          excused: false,
          versionId: null,
          tell: true,
        })),
    );
  }

  private checkOnPaper(
    given: DemoHandOut,
    section: DemoSection,
    pieceId: string,
    due: Date,
    random: Random,
    n: number,
  ): void {
    this.plan(new Date(due.getTime() + (n * 2 + 5) * 60_000), async (call) => {
      const teacher = { ...call, who: section.owner };
      await openDraft(teacher, pieceId);
      await saveFeedback(
        teacher,
        pieceId,
        { overall: anyOf(random, OVERALL.paper), score: String(between(random, 5, 10)), picks: {} },
        0,
      );
      await handBack(teacher, pieceId, { outcome: "final", due: null });
    });
  }

  private planFeedback(
    given: DemoHandOut,
    section: DemoSection,
    student: DemoStudent,
    pieceId: string,
    blocks: Block[],
    round: number,
    handedIn: Date,
    due: Date,
    random: Random,
    n: number,
  ): void {
    if (round === 1 && n / section.students.length >= given.marked) {
      // A few of those not yet handed back are begun: the evening was too short.
      if (
        given.marked > 0 &&
        given.marked < 1 &&
        n / section.students.length < given.marked + 0.15
      ) {
        this.plan(new Date(due.getTime() + (50 + n * 0.2) * HOUR), (call) =>
          this.draft(
            { ...call, who: section.owner },
            given,
            student,
            pieceId,
            blocks,
            round,
            random,
            "draft",
          ),
        );
      }
      return;
    }
    // Rework waits its turn as well: some of it is still on the pile.
    if (
      round > 1 &&
      chance(random, 0.7) &&
      this.stage.now.getTime() - handedIn.getTime() < 9 * 24 * HOUR
    )
      return;
    const evening = new Date(
      Math.max(
        handedIn.getTime() + 3 * HOUR,
        due.getTime() + (24 + Math.floor(n / 9) * 24) * HOUR,
      ) +
        (n % 9) * 7 * 60_000,
    );
    const revise = round < 3 && chance(random, round === 1 ? given.revise : given.revise * 0.45);
    this.plan(evening, async (call) => {
      const teacher = {
        ...call,
        who: section.co && n % 5 === 0 && round === 1 ? section.co : section.owner,
      };
      await this.draft(
        teacher,
        given,
        student,
        pieceId,
        blocks,
        round,
        random,
        revise ? "revise" : "final",
      );
      const backTo = { ...teacher, who: section.owner };
      const roundDue = `${schoolDayFrom(addDays(dayOf(call.now, this.stage.zone), 6), this.stage.calendar)}T16:00`;
      await handBack(backTo, pieceId, {
        outcome: revise ? "revise" : "final",
        due: revise ? roundDue : null,
      });
      const looks = new Date(this.awake(call.now.getTime() + (2 + random() * 30) * HOUR, random));
      if (chance(random, 0.85))
        this.plan(looks, async (c) => void (await openPiece({ ...c, who: student }, pieceId)));
      if (revise)
        this.planRework(
          given,
          section,
          student,
          pieceId,
          blocks,
          round + 1,
          looks,
          wallToInstant(roundDue, this.stage.zone).at,
          random,
          n,
        );
    });
  }

  /** The teacher reads: edits on the mistakes, comments from the bank where they belong, a word on the whole, a score. */
  private async draft(
    call: Call,
    given: DemoHandOut,
    student: DemoStudent,
    pieceId: string,
    blocks: Block[],
    round: number,
    random: Random,
    outcome: "draft" | "revise" | "final",
  ): Promise<void> {
    const { version } = await openDraft(call, pieceId);
    if (!version) return;
    const { text } = await readContent(call.tx, version.id);
    const put = async (
      kind: "note" | "replace" | "tick",
      start: number,
      end: number,
      more: {
        body?: string;
        replacement?: string;
        nature?: Nature;
        commentId?: string | null;
        criterionId?: string | null;
      },
    ) => {
      await addMark(call, pieceId, {
        id: this.stage.newId(),
        kind,
        nature: more.nature ?? "remark",
        start,
        end,
        body: more.body ?? "",
        replacement: more.replacement ?? "",
        versionId: version.id,
        commentId: more.commentId ?? null,
        criterionId: more.criterionId ?? null,
      });
    };
    for (const [wrong, right] of MISTAKES) {
      const at = text.indexOf(wrong);
      if (at !== -1 && chance(random, 0.8))
        await put("replace", at, at + wrong.length, { replacement: right });
    }
    const taken: [number, number][] = [];
    for (const [pattern, shorthands] of FINDERS) {
      if (taken.length >= 5 || !chance(random, round === 1 ? 0.5 : 0.25)) continue;
      const found = pattern.exec(text);
      if (!found || taken.some(([a, b]) => found.index < b && found.index + found[0].length > a))
        continue;
      const shorthand = anyOf(random, shorthands);
      const comment = BANK.find((c) => c.shorthand === shorthand)!;
      const own = call.who.id === this.stage.teachers.get("odalys")!.id;
      const nature =
        outcome === "final" && comment.nature === "request" ? "remark" : comment.nature;
      const criterionId = given.rubric
        ? (this.stage.rubrics
            .get(given.rubric)!
            .rubric.criteria.find((c) => c.name === comment.criterion)?.id ?? null)
        : null;
      await put("note", found.index, found.index + found[0].length, {
        body: fillPlaceholders(comment.text, { name: student.called }),
        nature,
        commentId: own ? this.stage.comments.get(comment.shorthand)! : null,
        criterionId,
      });
      taken.push([found.index, found.index + found[0].length]);
    }
    if (chance(random, 0.5)) {
      const end = text.indexOf(".", Math.floor(text.length / 2));
      const start = text.lastIndexOf(" ", end - 12) + 1;
      if (end > start) await put("tick", start, end, {});
    }
    await markFiles(call, pieceId, version.id, random, outcome, this.stage.newId);
    await markMore(call, pieceId, version, random, taken, this.stage.newId);
    await speak(
      call,
      pieceId,
      version,
      seeded(`voice ${student.id} ${given.title} ${round}`),
      this.stage.newId,
      call.who.id === this.stage.teachers.get("odalys")!.id,
    );
    if (round > 1) await this.ruleOn(call, pieceId, random, outcome);
    const feedback = (await readFeedback(call.tx, pieceId, round))!;
    const said = OVERALL[kindOfWork(given.title)][outcome === "revise" ? "revise" : "final"];
    const overall =
      outcome === "draft" && chance(random, 0.5)
        ? ""
        : fillPlaceholders(anyOf(random, said), {
            name: student.called,
          });
    const share = Math.min(
      1,
      0.62 + (1 - student.slips) * 0.2 + random() * 0.2 + (round - 1) * 0.06,
    );
    const score =
      given.points === "" || outcome === "revise" || outcome === "draft"
        ? ""
        : anyOf(random, [
            `${Math.round(Number(given.points) * share * 2) / 2}`,
            `${Math.round(Number(given.points) * share * 2) / 2}/${given.points}`,
            `${Math.round(share * 100)}%`,
          ]);
    const rubric =
      given.rubric && outcome !== "draft" ? this.stage.rubrics.get(given.rubric)!.rubric : null;
    const picks = rubric
      ? pickLevels(rubric, outcome === "revise" ? share - 0.3 : share, random)
      : {};
    const fromRubric = rubric && outcome === "final" ? scoreOf(rubric, picks, given.points) : null;
    await saveFeedback(
      call,
      pieceId,
      { overall, score: fromRubric ?? score, picks },
      feedback.revision,
    );
    await noteTime(call, pieceId, between(random, 70, 320));
  }

  private async ruleOn(
    call: Call,
    pieceId: string,
    random: Random,
    outcome: string,
  ): Promise<void> {
    const before = (await readHandBacks(call.tx, pieceId)).at(-1);
    for (const mark of before?.content.marks.filter((m) => m.nature === "request") ?? []) {
      await rule(call, pieceId, mark.id, {
        ruling: outcome === "final" || chance(random, 0.7) ? "settled" : "again",
      });
    }
  }

  private planRework(
    given: DemoHandOut,
    section: DemoSection,
    student: DemoStudent,
    pieceId: string,
    blocks: Block[],
    round: number,
    looks: Date,
    due: Date,
    random: Random,
    n: number,
  ): void {
    if (chance(random, 0.12)) return; // has not begun to revise
    const begins = new Date(this.awake(looks.getTime() + random() * 40 * HOUR, random));
    const revised = reviseBlocks(random, blocks, 0.85);
    this.plan(begins, async (call) => {
      const who = { ...call, who: student };
      const copy = (await readWorkingCopy(call.tx, pieceId))!;
      await saveWork(
        who,
        pieceId,
        {
          doc: toDoc(
            revised
              .slice(0, Math.max(2, Math.floor(revised.length * 0.7)))
              .concat(blocks.slice(Math.max(2, Math.floor(revised.length * 0.7)))),
          ),
        },
        copy.revision,
      );
      await this.answer(who, pieceId, random);
      if (chance(random, 0.15)) return; // is still at it
      const inAt = new Date(
        this.awake(
          Math.max(
            begins.getTime() + HOUR,
            due.getTime() - random() * 30 * HOUR + (chance(random, 0.12) ? 35 * HOUR : 0),
          ),
          random,
        ),
      );
      this.plan(inAt, async (later) => {
        const current = (await readWorkingCopy(later.tx, pieceId))!;
        await handIn(
          { ...later, who: student },
          pieceId,
          workOf(given, student, revised, this.beside.get(pieceId)),
          current.revision,
        );
        if ((await readVersions(later.tx, pieceId)).length > 0)
          this.planFeedback(
            given,
            section,
            student,
            pieceId,
            revised,
            round,
            later.now,
            due,
            random,
            n,
          );
      });
    });
  }

  /** The student goes through what came back: edits, requests, now and then a word. */
  private async answer(call: Call, pieceId: string, random: Random): Promise<void> {
    const back = (await readHandBacks(call.tx, pieceId)).at(-1);
    for (const mark of back?.content.marks ?? []) {
      if (isEdit(mark) && chance(random, 0.9))
        await answerMark(call, pieceId, mark.id, {
          request: null,
          decision: chance(random, 0.9) ? "accepted" : "declined",
        });
      if (mark.nature === "request" && chance(random, 0.75))
        await answerMark(call, pieceId, mark.id, { request: "done", decision: null });
      if (mark.nature !== "request" || !chance(random, 0.2)) continue;
      // One in three answers by voice.
      const words = upTo(random, REPLIES.length);
      const clipId =
        words % 3 === 0
          ? await putVoice(
              call,
              anyOf(random, ["reply-1", "reply-2", "reply-3", "reply-4"]),
              pieceId,
            )
          : null;
      await sendMessage(call, pieceId, {
        body: clipId ? "" : REPLIES[words]!,
        markId: mark.id,
        clipId,
      });
    }
  }
}

/** What a student has of it: the writing where there is some, and answers where there are questions. */
function workOf(
  given: DemoHandOut,
  student: DemoStudent,
  blocks: Block[],
  beside: Beside | null = null,
): GivenWork {
  const writes = !given.parts || given.parts.includes("writing");
  const asks = given.parts?.includes("tide questions");
  return {
    doc: writes ? withBeside(toDoc(blocks), beside) : EMPTY_DOC,
    answers: asks ? tideAnswers(seeded(`${given.title} ${student.id}`), student.slips) : {},
  };
}

/** What stands in the writing beside its words: behind its first paragraph, and at its end. */
function withBeside(doc: RichDoc, beside: Beside | null): RichDoc {
  if (!beside) return doc;
  const [first, ...rest] = doc.content;
  return { ...doc, content: [first!, beside.early, ...rest, beside.last] };
}

const SAID = [
  "The beginning took me longest.",
  "I read it to my grandmother.",
  "I am not sure about the ending.",
  "I went there twice.",
];

/** Levels around what the piece is worth, the best first. */
function pickLevels(rubric: Rubric, share: number, random: Random): Picks {
  return Object.fromEntries(
    rubric.criteria.map((criterion) => {
      const place = Math.min(
        criterion.levels.length - 1,
        Math.max(0, Math.floor((1 - share + (random() - 0.5) * 0.35) * criterion.levels.length)),
      );
      const level = criterion.levels[place]!;
      return [criterion.id, { levelId: level.id, points: level.points }];
    }),
  );
}

/** How long the teacher was at a piece, as the Desk notes it. */
async function noteTime({ tx, who, now }: Call, pieceId: string, seconds: number): Promise<void> {
  await tx`
    insert into at_desk (piece_id, person_id, seconds, seen_at) values (${pieceId}, ${who.id}, ${seconds}, ${now})
    on conflict (piece_id, person_id) do update set seconds = at_desk.seconds + excluded.seconds, seen_at = excluded.seen_at`;
}

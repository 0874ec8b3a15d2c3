import type { Random } from "./random";
import type { DemoPart } from "./work";
import type { Block } from "./texts/blocks";
import { writeLetter } from "./texts/letter";
import { cloudWatch, evaporation, forecastScript, moonPlan, rainfallLog, tideEssay, tideSheet } from "./texts/science";

export type DemoHandOut = {
  section: string;
  title: string;
  instructions: string[];
  expects: "work" | "nothing";
  points: string;
  /** Days from today; a day without school becomes the next one that has. */
  opens: number;
  due: number;
  dueClock: string;
  closes?: number;
  promised?: number;
  grace: number;
  write: (random: Random, called: string, size: number) => Block[];
  /** Its label, category and rubric, and what is asked at hand-in. */
  emoji?: string;
  numbered?: boolean;
  category?: string;
  rubric?: string;
  kind?: "letters" | "levels" | "completion";
  asks?: boolean;
  materials?: ("tide service" | "report to fill in" | "notes on gauges")[];
  picture?: boolean;
  /** What is handed in; writing alone unless said. */
  parts?: readonly DemoPart[];
  /** Some students send a checkpoint on the way. */
  checkpoints?: boolean;
  final?: "win back";
  /** Withdrawn so many days ago. */
  withdrawn?: number;
  /** How far the teacher has come with it: 0 nothing read, 1 all handed back. */
  marked: number;
  /** Share of pieces that go back to revise. */
  revise: number;
};

const letterTask = ["Go to a place on the island that is not what it was. Stay long enough to be cold.", "Write a letter from there to somebody who does not know it: what it was, what it is now, what you think about the change. One person in your letter must speak.", "One to two pages. We will work on it in up to three rounds."];

export const HAND_OUTS: readonly DemoHandOut[] = [
  { section: "Gannet", title: "Clouds, three times", parts: ["writing", "sketch"], emoji: "☁️", numbered: true, category: "Observation", instructions: ["Watch the same piece of sky three times in one day. Name what you see, say how you know, and say what you expect for the night."], expects: "work", points: "10", opens: -40, due: -34, dueClock: "16:00", grace: 10, promised: -28, write: cloudWatch, marked: 1, revise: 0.15 },
  { section: "Gannet", title: "Rainfall log and its graph", parts: ["writing", "graph"], emoji: "🌧️", numbered: true, category: "Observation", picture: true, materials: ["notes on gauges"], instructions: ["Seven days with your own rain gauge. A table, and a few sentences: what does it show, and how sure are you?"], expects: "work", points: "20", opens: -29, due: -19, dueClock: "16:00", closes: -8, grace: 15, promised: -12, write: rainfallLog, marked: 1, revise: 0.3 },
  { section: "Gannet", title: "Lab report: which dish dried first?", emoji: "🧪", numbered: true, category: "Lab reports", rubric: "Lab report", materials: ["report to fill in"], instructions: ["Question, what you did, what you saw, what it means. Somebody who was not there should be able to do it again."], expects: "work", points: "20", opens: -12, due: -4, dueClock: "16:00", grace: 10, promised: 3, write: evaporation, marked: 0.35, revise: 0.5 },
  { section: "Gannet", title: "Moon phases: plan of our poster", checkpoints: true, category: "Posters", instructions: ["One half page: what your poster shows, who does what, and one sentence that a seven-year-old would understand."], expects: "work", points: "", opens: -3, due: 3, dueClock: "16:00", grace: 0, write: moonPlan, marked: 0, revise: 0 },
  { section: "Plover", title: "Rainfall log and its graph", parts: ["writing", "graph"], emoji: "🌧️", numbered: true, category: "Observation", picture: true, materials: ["notes on gauges"], instructions: ["Seven days with your own rain gauge. A table, and a few sentences: what does it show, and how sure are you?"], expects: "work", points: "20", opens: -29, due: -18, dueClock: "16:00", closes: -7, grace: 15, promised: -11, write: rainfallLog, marked: 0.9, revise: 0.25 },
  { section: "Plover", title: "Lab report: which dish dried first?", emoji: "🧪", numbered: true, category: "Lab reports", rubric: "Lab report", materials: ["report to fill in"], instructions: ["Question, what you did, what you saw, what it means. Somebody who was not there should be able to do it again."], expects: "work", points: "20", opens: -11, due: -3, dueClock: "16:00", grace: 10, promised: 4, write: evaporation, marked: 0, revise: 0 },
  { section: "Curlew", title: "Field notebook, first half", category: "Notebook", instructions: ["I will look at your notebooks in class. Nothing to hand in here. I look for dates, weather, and one sketch per walk."], expects: "nothing", points: "10", opens: -38, due: -27, dueClock: "11:00", grace: 0, write: cloudWatch, marked: 1, revise: 0 },
  { section: "Curlew", title: "Letter from a place that changed", emoji: "✉️", category: "Long writing", rubric: "Letter from a place", asks: true, final: "win back", instructions: letterTask, expects: "work", points: "50", opens: -34, due: -20, dueClock: "20:00", grace: 30, promised: -13, write: writeLetter, marked: 0.95, revise: 0.8 },
  { section: "Curlew", title: "Shipping forecast, the script", category: "Voice", kind: "levels", instructions: ["Sixty seconds, read calmly. Go round the areas in order; wind, weather, visibility."], expects: "work", points: "10", opens: -5, due: 0, dueClock: "22:00", grace: 0, promised: 6, write: forecastScript, marked: 0, revise: 0 },
  { section: "Petrel", title: "Reading the tide table", parts: ["tide questions", "writing"], category: "Tables", materials: ["tide service"], instructions: ["Times, heights, units. Would you cross the sandbar by your own answers?"], expects: "work", points: "15", opens: -39, due: -33, dueClock: "09:00", grace: 5, promised: -29, write: tideSheet, marked: 1, revise: 0.2 },
  { section: "Petrel", title: "Why the tide is late each day", category: "Explaining", kind: "letters", instructions: ["Explain it to somebody who has never seen the sea. A drawing in words is welcome."], expects: "work", points: "15", opens: -16, due: -6, dueClock: "16:00", closes: 4, grace: 10, promised: 1, write: tideEssay, marked: 0.5, revise: 0.6 },
  { section: "Curlew", title: "Shipping forecast, spoken", emoji: "🎙️", category: "Voice", parts: ["forecast"], instructions: ["Read your forecast in sixty seconds, as one would read it on the radio. Calmly: somebody out there is writing it down."], expects: "work", points: "10", opens: -12, due: -4, dueClock: "20:00", grace: 10, promised: 4, write: forecastScript, marked: 0.4, revise: 0.5 },
  { section: "Gannet", title: "A film of your rain gauge", emoji: "🎥", category: "Observation", parts: ["film", "writing"], instructions: ["Film your gauge filling, in one minute at most. Under it two sentences: where is it, and what could be wrong there?"], expects: "work", points: "10", opens: -12, due: -4, dueClock: "16:00", grace: 10, promised: 3, write: evaporation, marked: 0.3, revise: 0.4 },
  { section: "Plover", title: "Evaporation at home, the report", emoji: "💧", numbered: true, category: "Lab reports", parts: ["report"], instructions: ["The same question as in the lab, with dishes from your kitchen. Write it where you like, and hand in the document."], expects: "work", points: "20", opens: -13, due: -5, dueClock: "16:00", grace: 10, promised: 4, write: evaporation, marked: 0.3, revise: 0.5 },
  { section: "Gannet", title: "Sky over the harbour, drawn", emoji: "🖍️", category: "Observation", parts: ["graph", "writing"], instructions: ["A graph of the cloud cover over one day, on squared paper. Photograph every page, and say in two sentences what surprised you."], expects: "work", points: "10", opens: -2, due: 5, dueClock: "16:00", grace: 10, write: cloudWatch, marked: 0, revise: 0 },
  { section: "Petrel", title: "Tide gauge against table", category: "Tables", instructions: ["Read the gauge at the pier on three days and compare it with the table. How far apart are they, and why?"], expects: "work", points: "20", opens: 0, due: 9, dueClock: "16:00", grace: 10, write: tideEssay, marked: 0, revise: 0 },
  // To open later: students do not see it yet.
  { section: "Gannet", title: "Weather mast, a week of readings", emoji: "🌬️", numbered: true, category: "Observation", instructions: ["Read the mast at the same time on five school days. Wind, pressure, temperature. What changed first?"], expects: "work", points: "10", opens: 5, due: 12, dueClock: "09:05", grace: 10, promised: 17, write: cloudWatch, marked: 0, revise: 0 },
  { section: "Plover", title: "Weather mast, a week of readings", emoji: "🌬️", numbered: true, category: "Observation", instructions: ["Read the mast at the same time on five school days. Wind, pressure, temperature. What changed first?"], expects: "work", points: "10", opens: 6, due: 13, dueClock: "10:10", grace: 10, promised: 18, write: cloudWatch, marked: 0, revise: 0 },
  // Handed out too early, and withdrawn two days later.
  { section: "Petrel", title: "Spring tide, from memory", instructions: ["Without the book: what makes a spring tide?"], expects: "work", points: "5", opens: -9, due: -1, dueClock: "13:00", grace: 0, withdrawn: -7, write: tideEssay, marked: 0, revise: 0 },
  { section: "Fulmar", title: "Clouds, three times", instructions: ["Watch the same piece of sky three times in one day."], expects: "work", points: "10", opens: -20, due: -10, dueClock: "16:00", grace: 10, write: cloudWatch, marked: 0.5, revise: 0.2 },
];

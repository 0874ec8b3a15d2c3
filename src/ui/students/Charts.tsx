"use client";

import dynamic from "next/dynamic";
import { sayCount } from "@/core/text/sayCount";
import type { SectionOverTime, StudentPage } from "@/core/views/studentViews";

// Fetched when they are shown: nobody waits for a library of charts who does not look at them.
const Bars = dynamic(() => import("../kit/Bars").then((m) => m.Bars), { ssr: false });
const Course = dynamic(() => import("../kit/Course").then((m) => m.Course), { ssr: false });

/** A student's scores in their order, as a line and in figures, and what each category makes. */
export function CourseOverTerm({ course }: { course: StudentPage["course"] }) {
  const { scores, categories } = course;
  if (scores.length === 0) return null;
  return (
    <section aria-labelledby="course" className="mt-8">
      <h2 id="course">Scores, one after another</h2>
      <div className="grid gap-x-12 gap-y-6 lg:grid-cols-[3fr_2fr]">
        {scores.length > 1 ? (
          <Course
            points={scores.map(({ day, percent }) => ({ label: day, percent }))}
            said={`Scores in percent: ${scores.map((s) => `${s.day} ${s.percent}`).join(", ")}`}
          />
        ) : null}
        <div>
          <table className="sheet-table">
            <thead>
              <tr className="label">
                <th scope="col">category</th>
                <th scope="col">pieces</th>
                <th scope="col">of all points</th>
              </tr>
            </thead>
            <tbody>
              {categories.map(({ category, pieces, percent }) => (
                <tr key={category}>
                  <th scope="row" className="border-b border-line! font-normal">
                    {category || "without a category"}
                  </th>
                  <td>{pieces}</td>
                  <td>{percent} %</td>
                </tr>
              ))}
            </tbody>
          </table>
          <details className="mt-2">
            <summary className="label cursor-pointer max-sm:leading-[2.75rem]">
              {sayCount(scores.length, "score")} in figures
            </summary>
            <ul className="text-sm">
              {scores.map(({ title, on, day, percent }) => (
                <li key={`${on} ${title}`} className="border-t border-line py-0.5">
                  {day}: {title}, {percent} %
                </li>
              ))}
            </ul>
          </details>
        </div>
      </div>
    </section>
  );
}

type Week = SectionOverTime["weeks"][number];
type Figure = "late" | "missing" | "asked" | "settled";

/** Two figures of each week beside each other. */
function WeekBars({
  weeks,
  head,
  of,
}: {
  weeks: readonly Week[];
  head: string;
  /** The filled one and the hollow one. */ of: readonly [Figure, Figure];
}) {
  const [filled, hollow] = of.map((name) => weeks.map((week) => week[name]));
  return (
    <section aria-label={head}>
      <h2>{head}</h2>
      <p className="text-sm text-soft">
        Filled: {of[0]}. Hollow: {of[1]}.
      </p>
      <Bars
        labels={weeks.map(({ week }) => week)}
        values={filled!}
        beside={hollow!}
        said={`${head} in which pieces were due; the figures stand below.`}
      />
    </section>
  );
}

/** How late a class is from week to week, and what was asked of it and settled. */
export function Weeks({ weeks }: { weeks: readonly Week[] }) {
  if (weeks.length === 0) return null;
  return (
    <div className="mt-6 grid gap-x-12 gap-y-8 lg:grid-cols-2">
      <WeekBars weeks={weeks} head="Late and missing, by week" of={["late", "missing"]} />
      <WeekBars weeks={weeks} head="Asked and settled, by week" of={["asked", "settled"]} />
      <div className="overflow-x-auto lg:col-span-2">
        <table className="sheet-table">
          <thead>
            <tr className="label">
              <th scope="col">week of</th>
              <th scope="col">pieces due</th>
              <th scope="col">late</th>
              <th scope="col">missing</th>
              <th scope="col">asked</th>
              <th scope="col">settled</th>
            </tr>
          </thead>
          <tbody>
            {weeks.map((week) => (
              <tr key={week.monday}>
                <th scope="row" className="border-b border-line! font-normal">
                  {week.week}
                </th>
                <td>{week.pieces}</td>
                <td className={week.late > 0 ? "text-ember" : ""}>{week.late}</td>
                <td className={week.missing > 0 ? "text-ember" : ""}>{week.missing}</td>
                <td>{week.asked}</td>
                <td>{week.settled}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </div>
  );
}

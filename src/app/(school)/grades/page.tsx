import type { GradeSource } from "@/core/views/gradeViews";
import { ownGrades } from "@/server/grades/grades";
import { pageCall, view } from "@/server/page";
import { FrozenGrade } from "@/ui/grades/FrozenGrade";
import { GradeSum } from "@/ui/grades/GradeSum";
import { Page } from "@/ui/kit/Page";
import { Empty } from "@/ui/kit/Notice";

export const metadata = { title: "Grades" };

/** For a student, and for a guardian with each child apart: the grades that teachers show, opened into their sums. */
export default async function GradesPage() {
  const call = await pageCall();
  const grades = await view(ownGrades(call));
  const several = new Set(grades.map(({ student }) => student.id)).size > 1;
  return (
    <Page width="reading">
      <h1>Grades</h1>
      {grades.length === 0 ? (
        <Empty title="No grade is shown yet">
          Your teachers decide whether grades are shown before the end of a term. Single scores
          stand with the work itself.
        </Empty>
      ) : (
        <p className="mt-1 text-soft">
          What a grade would be with other scores can be tried in its lines. Nothing of that is
          kept, and nobody else sees it.
        </p>
      )}
      {grades.map((source) => (
        <section key={idOf(source)} aria-labelledby={idOf(source)} className="mt-8">
          <h2 id={idOf(source)}>
            {several ? `${source.student.name}: ` : ""}
            {source.course}, {source.section}
          </h2>
          {source.term ? <p className="mb-2 text-soft">{source.term} term</p> : null}
          <FrozenGrade source={source} correct={false} />
          <GradeSum source={source} />
        </section>
      ))}
    </Page>
  );
}

const idOf = ({ student, sectionId, term }: GradeSource): string =>
  `${student.id}-${sectionId}-${(term ?? "").replace(/\W+/g, "-")}`;

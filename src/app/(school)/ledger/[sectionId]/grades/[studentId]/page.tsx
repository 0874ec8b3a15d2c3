import Link from "next/link";
import { studentGrade } from "@/server/grades/grades";
import { idFrom, pageCall, textFrom, view } from "@/server/page";
import { FrozenGrade } from "@/ui/grades/FrozenGrade";
import { Page } from "@/ui/kit/Page";
import { GradeSum } from "@/ui/grades/GradeSum";

export const metadata = { title: "A grade and its sum" };

type Props = {
  params: Promise<{ sectionId: string; studentId: string }>;
  searchParams: Promise<{ term?: string | string[] }>;
};

/** One student's grade in a section, opened into its sum. */
export default async function GradePage({ params, searchParams }: Props) {
  const call = await pageCall("teacher");
  const { sectionId, studentId } = await params;
  const term = textFrom((await searchParams).term) || null;
  const asked = { sectionId: idFrom(sectionId), studentId: idFrom(studentId), term };
  const source = await view(studentGrade(call, asked));
  return (
    <Page width="reading" title={`${source.student.name}: grade in ${source.section}`}>
      <p>
        <Link href={`/ledger/${source.sectionId}`} prefetch={false}>
          ← Ledger of {source.section}
        </Link>
      </p>
      <h1>
        <Link
          href={`/students/${source.student.id}`}
          prefetch={false}
          className="text-ink no-underline hover:underline"
        >
          {source.student.name}
        </Link>
      </h1>
      <p className="mb-4 flex flex-wrap gap-x-4 text-soft">
        {source.course}, {source.section}
        {source.terms.map((name) => (
          <Link
            key={name}
            href={`?term=${encodeURIComponent(name)}`}
            prefetch={false}
            aria-current={name === source.term ? "page" : undefined}
            className={name === source.term ? "font-semibold text-ink" : undefined}
          >
            {name} term
          </Link>
        ))}
      </p>
      <FrozenGrade source={source} correct={source.mayCorrect} />
      <GradeSum key={source.term} source={source} />
    </Page>
  );
}

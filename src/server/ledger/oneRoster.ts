import { writeGradeFiles, type GradeRefs } from "@/core/ledger/oneRosterGrades";
import { dayOf } from "@/core/time/zone";
import type { LedgerWithGrades } from "@/core/views/ledgerViews";
import type { ReadCall } from "../call";
import { pack } from "../reading/rosterPackage";
import { fileOf, ledgerWithGrades } from "./out";

/** The section's scores as a OneRoster 1.2 package, under the names the school's records have for its people and classes. */
export async function ledgerOneRoster(
  call: ReadCall,
  sectionId: string,
  term: string | null,
): Promise<Response> {
  const view = await ledgerWithGrades(call, sectionId, term);
  const [refs, about] = await Promise.all([readRefs(call, view), readColumnsOut(call, view)]);
  const files = writeGradeFiles({
    ...{ refs, rows: view.rows, today: view.today },
    columns: view.columns.map((column) => ({ ...column, ...about.get(column.handOutId)! })),
  });
  const bytes = pack(files);
  return fileOf(new Uint8Array(bytes), { view, ending: "zip", type: "application/zip" });
}

async function readRefs({ db, who }: ReadCall, view: LedgerWithGrades): Promise<GradeRefs> {
  const sectionId = view.section.id;
  const [sections, terms, categories, students] = await Promise.all([
    db<
      { ref: string }[]
    >`select coalesce(source_id, id::text) as ref from section where id = ${sectionId}`,
    db<{ ref: string }[]>`
      select coalesce(source_id, id::text) as ref from term
      where school_id = ${who.schoolId} and name = ${view.term ?? ""}`,
    db<{ id: string; name: string; weight: string }[]>`
      select id, name, trim_scale(weight)::text as weight from category
      where section_id = ${sectionId} order by position, id`,
    db<{ id: string; ref: string }[]>`
      select person.id, coalesce(person.source_id, person.id::text) as ref
      from enrolment join person on person.id = enrolment.student_id
      where enrolment.section_id = ${sectionId}`,
  ]);
  return {
    ...{ school: who.schoolId, section: sections[0]!.ref, term: terms[0]?.ref ?? null, categories },
    students: new Map(students.map(({ id, ref }) => [id, ref])),
  };
}

type ColumnOut = { categoryId: string | null; opensOn: string };

async function readColumnsOut(
  { db, who }: ReadCall,
  { columns }: LedgerWithGrades,
): Promise<Map<string, ColumnOut>> {
  const rows = await db<{ id: string; categoryId: string | null; opensAt: Date }[]>`
    select id, category_id, opens_at from hand_out
    where id = any(${columns.map(({ handOutId }) => handOutId)})`;
  return new Map(
    rows.map(({ id, categoryId, opensAt }) => [
      id,
      { categoryId, opensOn: dayOf(opensAt, who.zone) },
    ]),
  );
}

import { checkScales, type GradeScale } from "@/core/grades/rules";
import { Invalid } from "@/core/refusals";
import { toDecimal } from "@/core/scores/decimal";
import { requireKind } from "../access/standing";
import type { Call, ReadCall } from "../call";
import type { Db } from "../db/connection";
import { recordEvent } from "../life/queries";

/** The scales of a school, for those who set a section up there. */
export async function readGradeScales(db: Db, schoolId: string): Promise<GradeScale[]> {
  const [row] = await db<{ gradeScales: GradeScale[] }[]>`
    select grade_scales from school where id = ${schoolId}`;
  return row!.gradeScales;
}

/** The same for who keeps the school. @throws NotFound */
export function officeScales({ db, who }: ReadCall): Promise<GradeScale[]> {
  requireKind(who, "office");
  return readGradeScales(db, who.schoolId);
}

/** Sets them all. Sections that took one before keep it as it was. @throws Invalid by scale and step */
export async function setGradeScales(
  { tx, db, who, now, newId }: Call,
  { scales }: { scales: readonly GradeScale[] },
): Promise<{ scales: GradeScale[] }> {
  requireKind(who, "office");
  const clean = scales.map((one) => ({
    ...{ ...one, name: one.name.trim() },
    scale: one.scale.map(({ from, name }) => ({ from: toDecimal(from), name: name.trim() })),
  }));
  const wrong = checkScales(clean);
  if (Object.keys(wrong).length > 0) throw new Invalid(wrong);
  await tx`update school set grade_scales = ${tx.json(clean as never)} where id = ${who.schoolId}`;
  await recordEvent(
    { tx, db, who, now, newId },
    {
      ...{ handOutId: null, pieceId: null, kind: "set the school’s scales" },
      detail: { scales: clean.map(({ name }) => name) },
    },
  );
  return { scales: clean };
}

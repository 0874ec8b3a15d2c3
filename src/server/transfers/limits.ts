import type { LimitsView } from "@/core/views/reminderViews";
import { requireKind } from "../access/standing";
import type { Call, ReadCall } from "../call";
import { recordEvent } from "../life/queries";

export async function readSchoolLimits({ db, who }: ReadCall): Promise<LimitsView> {
  requireKind(who, "office");
  const [row] = await db<
    LimitsView[]
  >`select file_megabytes, piece_megabytes, student_megabytes, recording_minutes from school where id = ${who.schoolId}`;
  return row!;
}

/** How much students can hand in; what is there already stays. */
export async function setLimits(call: Call, limits: LimitsView): Promise<LimitsView> {
  requireKind(call.who, "office");
  const { fileMegabytes, pieceMegabytes, studentMegabytes, recordingMinutes } = limits;
  await call.tx`
    update school
    set file_megabytes = ${fileMegabytes}, piece_megabytes = ${pieceMegabytes}, student_megabytes = ${studentMegabytes}, recording_minutes = ${recordingMinutes}
    where id = ${call.who.schoolId}`;
  await recordEvent(call, {
    handOutId: null,
    pieceId: null,
    kind: "changed the limits for files",
    detail: { ...limits },
  });
  return limits;
}

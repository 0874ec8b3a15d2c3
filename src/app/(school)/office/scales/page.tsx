import { officeScales } from "@/server/office/gradeScales";
import { pageCall } from "@/server/page";
import { GradeScales } from "@/ui/office/GradeScales";
import { OfficeHead } from "@/ui/office/OfficeHead";

export const metadata = { title: "Grade scales" };

export default async function ScalesPage() {
  const scales = await officeScales(await pageCall("office"));
  return (
    <div className="mx-auto w-full max-w-4xl px-4 py-6 sm:px-6">
      <OfficeHead title="Grade scales" />
      <GradeScales first={scales} />
    </div>
  );
}

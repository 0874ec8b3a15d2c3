import { officeScales } from "@/server/office/gradeScales";
import { pageCall } from "@/server/page";
import { GradeScales } from "@/ui/office/GradeScales";
import { Page } from "@/ui/kit/Page";
import { OfficeHead } from "@/ui/office/OfficeHead";

export const metadata = { title: "Grade scales" };

export default async function ScalesPage() {
  const scales = await officeScales(await pageCall("office"));
  return (
    <Page width="reading">
      <OfficeHead title="Grade scales" />
      <GradeScales first={scales} />
    </Page>
  );
}

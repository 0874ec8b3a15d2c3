import { readSchoolLimits } from "@/server/transfers/limits";
import { pageCall } from "@/server/page";
import { Limits } from "@/ui/office/Limits";
import { Page } from "@/ui/kit/Page";
import { OfficeHead } from "@/ui/office/OfficeHead";

export const metadata = { title: "Limits for files" };

export default async function LimitsPage() {
  const limits = await readSchoolLimits(await pageCall("office"));
  return (
    <Page width="reading">
      <OfficeHead title="Limits for files" />
      <Limits first={limits} />
    </Page>
  );
}

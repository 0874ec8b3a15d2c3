import { readSchoolLimits } from "@/server/transfers/limits";
import { pageCall } from "@/server/page";
import { Limits } from "@/ui/office/Limits";
import { OfficeHead } from "@/ui/office/OfficeHead";

export const metadata = { title: "Limits for files" };

export default async function LimitsPage() {
  const limits = await readSchoolLimits(await pageCall("office"));
  return (
    <div className="mx-auto w-full max-w-4xl px-4 py-6 sm:px-6">
      <OfficeHead title="Limits for files" />
      <Limits first={limits} />
    </div>
  );
}

import { schoolCalendarView } from "@/server/office/schoolCalendar";
import { readQuietHours } from "@/server/office/quietHours";
import { pageCall } from "@/server/page";
import { OfficeHead } from "@/ui/office/OfficeHead";
import { QuietHours } from "@/ui/office/QuietHours";
import { Page } from "@/ui/kit/Page";
import { SchoolCalendar } from "@/ui/office/SchoolCalendar";

export const metadata = { title: "School calendar" };

export default async function OfficeCalendarPage() {
  const call = await pageCall("office");
  const [view, quiet] = await Promise.all([schoolCalendarView(call), readQuietHours(call)]);
  return (
    <Page width="table">
      <OfficeHead title="School calendar" />
      <SchoolCalendar view={view} />
      <QuietHours first={quiet} />
    </Page>
  );
}

import { schoolCalendarView } from "@/server/office/schoolCalendar";
import { readQuietHours } from "@/server/office/quietHours";
import { pageCall } from "@/server/page";
import { OfficeHead } from "@/ui/office/OfficeHead";
import { QuietHours } from "@/ui/office/QuietHours";
import { SchoolCalendar } from "@/ui/office/SchoolCalendar";

export const metadata = { title: "School calendar" };

export default async function OfficeCalendarPage() {
  const call = await pageCall("office");
  const [view, quiet] = await Promise.all([schoolCalendarView(call), readQuietHours(call)]);
  return (
    <div className="mx-auto w-full max-w-5xl px-4 py-6 sm:px-6">
      <OfficeHead title="School calendar" />
      <SchoolCalendar view={view} />
      <QuietHours first={quiet} />
    </div>
  );
}

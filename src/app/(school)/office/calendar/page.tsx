import { schoolCalendarView } from "@/server/office/schoolCalendar";
import { pageCall } from "@/server/page";
import { OfficeHead } from "@/ui/office/OfficeHead";
import { SchoolCalendar } from "@/ui/office/SchoolCalendar";

export const metadata = { title: "School calendar" };

export default async function OfficeCalendarPage() {
  const view = await schoolCalendarView(await pageCall("office"));
  return (
    <div className="mx-auto w-full max-w-5xl px-4 py-6 sm:px-6">
      <OfficeHead title="School calendar" />
      <SchoolCalendar view={view} />
    </div>
  );
}

import { listReminders } from "@/server/reminders/reminders";
import { pageCall } from "@/server/page";
import { settings } from "@/server/settings";
import { Reminders } from "@/ui/reminders/Reminders";

export const metadata = { title: "Reminders" };

export default async function RemindersPage() {
  const view = await listReminders(await pageCall("student"));
  return (
    <div className="mx-auto w-full max-w-3xl px-4 py-6 sm:px-6">
      <h1 className="mb-4">Reminders</h1>
      <Reminders first={view} postRoom={settings().mode !== "production"} />
    </div>
  );
}

import { listReminders } from "@/server/reminders/reminders";
import { pageCall } from "@/server/page";
import { settings } from "@/server/settings";
import { Page } from "@/ui/kit/Page";
import { Reminders } from "@/ui/reminders/Reminders";

export const metadata = { title: "Reminders" };

export default async function RemindersPage() {
  const view = await listReminders(await pageCall("student"));
  return (
    <Page width="reading">
      <h1 className="mb-4">Reminders</h1>
      <Reminders first={view} postRoom={settings().mode !== "production"} />
    </Page>
  );
}

import { cookies } from "next/headers";
import { COOKIE, listSessions } from "@/server/auth/sessions";
import { readSettings } from "@/server/marking/desk/setting";
import { pageCall } from "@/server/page";
import { OwnKeys } from "@/ui/account/OwnKeys";
import { OwnPassword } from "@/ui/account/OwnPassword";
import { Page } from "@/ui/kit/Page";
import { Sessions } from "@/ui/account/Sessions";

export const metadata = { title: "Password and devices" };

export default async function AccountPage() {
  const call = await pageCall(undefined, { whileOwed: true });
  const token = (await cookies()).get(COOKIE)?.value ?? null;
  return (
    <Page width="reading" className="grid gap-10 md:grid-cols-2">
      <h1 className="md:col-span-2">Password and devices</h1>
      <OwnPassword owed={call.who.mustChange ?? false} name={call.who.name} />
      <Sessions first={await listSessions(call, token)} />
      {call.who.kind === "teacher" ? (
        <OwnKeys first={(await readSettings(call)).letters ?? "on"} />
      ) : null}
    </Page>
  );
}

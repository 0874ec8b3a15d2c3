import { cookies } from "next/headers";
import type { ReactNode } from "react";
import { themeOf } from "@/core/views/theme";
import { mastheadView } from "@/server/overview/school";
import { pageCall } from "@/server/page";
import { BankEverywhere } from "@/ui/comments/BankContext";
import { OfflineReady } from "@/ui/frame/OfflineReady";
import { FirstTime } from "@/ui/guide/FirstTime";
import { Masthead } from "@/ui/frame/Masthead";

export default async function SchoolLayout({ children }: { children: ReactNode }) {
  const call = await pageCall(undefined, { whileOwed: true });
  const [view, jar] = await Promise.all([mastheadView(call), cookies()]);
  return (
    <div className="flex min-h-dvh flex-col" data-school-zone={call.who.zone}>
      <OfflineReady personId={call.who.id} pages={call.who.kind === "student"} />
      <Masthead view={view} theme={themeOf(jar.get("almanac_theme")?.value)} />
      {/* On paper there is no masthead: whose page it was, and of which day, is said in one line. */}
      <p className="mb-3 hidden text-sm text-soft print:block">
        {view.name} · {view.school} · {view.day}
      </p>
      <main id="main" className="flex min-h-0 flex-1 flex-col">
        {call.who.kind === "teacher" ? <FirstTime seen={view.guides} /> : null}
        {call.who.kind === "teacher" ? <BankEverywhere>{children}</BankEverywhere> : children}
      </main>
    </div>
  );
}

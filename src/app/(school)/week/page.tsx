import Link from "next/link";
import { sayIn } from "@/core/language/say";
import { countUnread } from "@/server/letters/read";
import { weekView } from "@/server/weekSheet/week";
import { dayFrom, pageCall } from "@/server/page";
import { ChooseLanguage } from "@/ui/students/ChooseLanguage";
import { WeekMail } from "@/ui/students/WeekMail";
import { WeekSheet } from "@/ui/students/WeekSheet";
import { Page } from "@/ui/kit/Page";
import { PrintButton } from "@/ui/kit/PrintButton";

export const metadata = { title: "Week sheet" };

type Props = { searchParams: Promise<{ of?: string | string[] }> };

export default async function WeekPage({ searchParams }: Props) {
  const call = await pageCall("guardian");
  const { of } = await searchParams;
  const [week, unread] = await Promise.all([weekView(call, dayFrom(of)), countUnread(call)]);
  const say = sayIn("week", week.language);
  return (
    <Page width="reading">
      <div lang={week.language}>
        <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
          <h1>{say("title")}</h1>
          <p className="font-serif text-lg">{week.words}</p>
          <PrintButton className="ml-auto">{say("print")}</PrintButton>
        </div>
        <nav aria-label={say("weeks")} className="no-print mt-1 flex flex-wrap gap-x-5">
          {week.earlier ? <WeekLink of={week.earlier}>{say("before")}</WeekLink> : null}
          {week.later ? <WeekLink of={week.later}>{say("after")}</WeekLink> : null}
          {week.present ? null : <WeekLink of={null}>{say("thisWeek")}</WeekLink>}
        </nav>
        {unread > 0 ? (
          <p className="no-print mt-3 border-l-4 border-plum bg-plum-wash px-3">
            <Link href="/letters" prefetch={false} className="inline-flex min-h-11 items-center">
              ★ {say("letters", { count: unread })}
            </Link>
          </p>
        ) : null}
        {week.children.map((child) => (
          <WeekSheet key={child.id} child={child} present={week.present} say={say} />
        ))}
        <ChooseLanguage language={week.language} label={say("language")} />
        {week.mail.address ? (
          <WeekMail on={week.mail.on} words={say("mail", { address: week.mail.address })} />
        ) : null}
      </div>
    </Page>
  );
}

const WeekLink = ({ of, children }: { of: string | null; children: React.ReactNode }) => (
  <Link
    href={of ? `/week?of=${of}` : "/week"}
    prefetch={false}
    className="inline-flex min-h-6 items-center max-sm:min-h-11"
  >
    {children}
  </Link>
);

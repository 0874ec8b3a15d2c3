import Link from "next/link";
import { sayCount } from "@/core/text/sayCount";
import { countUnread } from "@/server/letters/read";
import { weekView } from "@/server/overview/work";
import { pageCall } from "@/server/page";
import { Moon } from "@/ui/kit/Moon";
import { Empty } from "@/ui/kit/Notice";

export const metadata = { title: "Week sheet" };

export default async function WeekPage() {
  const call = await pageCall("guardian");
  const [{ children }, unread] = await Promise.all([weekView(call), countUnread(call)]);
  return (
    <div className="mx-auto w-full max-w-3xl px-4 py-6 sm:px-6">
      <h1>Week sheet</h1>
      {unread > 0 ? (
        <p className="mt-3 border-l-4 border-plum bg-plum-wash px-3">
          <Link href="/letters" prefetch={false} className="inline-flex min-h-11 items-center">
            ★ {sayCount(unread, "letter")} to read
          </Link>
        </p>
      ) : null}
      {children.map((child) => (
        <section key={child.name} className="mt-6" aria-label={child.name}>
          <h2>{child.name}</h2>
          {child.lines.length === 0 ? (
            <Empty title="Nothing is due, missing or just handed back" />
          ) : (
            <table className="sheet-table mt-2">
              <thead>
                <tr className="label">
                  <th scope="col">work</th>
                  <th scope="col">due</th>
                  <th scope="col">where it is</th>
                </tr>
              </thead>
              <tbody>
                {child.lines.map((line, n) => (
                  <tr key={n}>
                    <td>
                      <span className="font-serif text-[1.0625rem]">{line.title}</span>{" "}
                      <span className="text-sm text-soft">{line.section}</span>
                    </td>
                    <td>{line.due}</td>
                    <td>
                      <span className="flex items-center gap-2">
                        <Moon moon={line.moon} named={false} /> {line.state}
                      </span>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </section>
      ))}
    </div>
  );
}

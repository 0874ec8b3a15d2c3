import { listMail } from "@/server/mail/postRoom";
import { pageCall, view } from "@/server/page";
import { MailAnswer } from "@/ui/letters/MailAnswer";
import { Page } from "@/ui/kit/Page";
import { Empty } from "@/ui/kit/Notice";

export const metadata = { title: "Post room" };

/** The demo's letters, as they would have gone out. Outside the demo there is no such page. */
export default async function PostRoomPage() {
  const call = await pageCall();
  const mail = await view(listMail(call));
  return (
    <Page width="reading">
      <h1>Post room</h1>
      <p className="mt-1 text-soft">
        Messages as they go out. In the demo they stay here; a school sets its own mail server for
        them.
      </p>
      {mail.length === 0 ? (
        <Empty title="No messages yet">
          When something is due within a day or is handed back, a message is written here.
        </Empty>
      ) : null}
      <ol className="mt-4">
        {mail.map((m) => (
          <li key={m.id} className="border-t border-line py-3">
            <p className="flex flex-wrap items-baseline gap-x-4">
              <strong className="font-serif text-lg font-normal">{m.subject}</strong>
              <span className="text-sm text-soft">
                to {m.to}, {m.when}
                {m.held ? ` · held by the quiet hours until ${m.held}` : ""}
              </span>
              <a className="ml-auto text-sm" href={`/api/post-room/${m.id}`} download>
                fetch as .eml
              </a>
            </p>
            <pre className="mt-1 font-sans whitespace-pre-wrap">{m.text}</pre>
            {m.mayAnswer ? <MailAnswer mailId={m.id} text={m.text} /> : null}
          </li>
        ))}
      </ol>
    </Page>
  );
}

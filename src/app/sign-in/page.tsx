import { redirect } from "next/navigation";
import { demoPeople } from "@/server/auth/signIn";
import { database } from "@/server/db/connection";
import { firstPage, visitor } from "@/server/page";
import { settings } from "@/server/settings";
import { DemoPeople } from "@/ui/frame/DemoPeople";
import { SignIn } from "@/ui/frame/SignIn";

export const metadata = { title: "Sign in" };

export default async function SignInPage() {
  const who = await visitor();
  if (who) redirect(firstPage(who));
  const people = settings().mode === "demo" ? await demoPeople(database()) : null;
  return (
    <main className="mx-auto grid max-w-6xl gap-x-16 gap-y-10 px-6 py-12 lg:grid-cols-[22rem_1fr]">
      <div>
        <h1 className="text-5xl!">Almanac</h1>
        <p className="mt-2 mb-8 font-serif text-lg text-soft italic">
          Work handed out, handed in, answered, and handed back until it is right.
        </p>
        <SignIn />
      </div>
      {people ? (
        <div className="border-t border-line-strong pt-4 lg:border-t-0 lg:border-l lg:pt-0 lg:pl-10">
          <h2>The demo school</h2>
          <p className="text-soft">
            Everyone here is invented. Press a name to enter as that person.
          </p>
          <DemoPeople people={people} />
        </div>
      ) : null}
    </main>
  );
}

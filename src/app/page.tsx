import { redirect } from "next/navigation";
import { firstPage, visitor } from "@/server/page";

export default async function RootPage() {
  const who = await visitor();
  redirect(who ? firstPage(who) : "/sign-in");
}

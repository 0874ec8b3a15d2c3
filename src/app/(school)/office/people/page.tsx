import { classesToSignIn, findForOffice } from "@/server/auth/givePassword";
import { pageCall, textFrom } from "@/server/page";
import { OfficeHead } from "@/ui/office/OfficeHead";
import { Page } from "@/ui/kit/Page";
import { People } from "@/ui/office/People";

export const metadata = { title: "People" };

export default async function OfficePeoplePage({
  searchParams,
}: {
  searchParams: Promise<{ name?: string | string[] }>;
}) {
  const asked = textFrom((await searchParams).name);
  const call = await pageCall("office");
  const [first, classes] = await Promise.all([findForOffice(call, asked), classesToSignIn(call)]);
  return (
    <Page width="reading">
      <OfficeHead title="People and passwords" />
      <People key={asked} asked={asked} first={first} classes={classes} />
    </Page>
  );
}

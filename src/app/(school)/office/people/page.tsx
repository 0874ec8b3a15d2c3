import { findForOffice } from "@/server/auth/givePassword";
import { pageCall } from "@/server/page";
import { OfficeHead } from "@/ui/office/OfficeHead";
import { People } from "@/ui/office/People";

export const metadata = { title: "People" };

export default async function OfficePeoplePage() {
  const first = await findForOffice(await pageCall("office"), "");
  return (
    <div className="mx-auto w-full max-w-4xl px-4 py-6 sm:px-6">
      <OfficeHead title="People and passwords" />
      <People first={first} />
    </div>
  );
}

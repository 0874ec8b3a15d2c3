import { NotFound } from "@/core/refusals";
import { checkReceipt } from "@/server/pieces/receipts";
import { pageCall, textFrom } from "@/server/page";
import { Page } from "@/ui/kit/Page";
import { CheckReceipt } from "@/ui/piece/handingIn/CheckReceipt";

export const metadata = { title: "Check a receipt" };

export default async function ReceiptsPage({
  searchParams,
}: {
  searchParams: Promise<{ code?: string | string[] }>;
}) {
  const call = await pageCall("teacher");
  const code = textFrom((await searchParams).code);
  const found = code
    ? await checkReceipt(call, code).catch((error: unknown) => {
        if (error instanceof NotFound) return null;
        throw error;
      })
    : undefined;
  return (
    <Page width="reading">
      <h1 className="mb-4">Check a receipt</h1>
      <CheckReceipt code={code} found={found} zone={call.who.zone} />
    </Page>
  );
}

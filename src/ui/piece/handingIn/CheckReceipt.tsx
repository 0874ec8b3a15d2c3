import Link from "next/link";
import type { CheckedReceipt } from "@/core/views/views";
import { Button } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { TextField } from "../../kit/Field";
import { ReceiptCard } from "./ReceiptCard";

/** A student shows a receipt: what stands behind its code. A plain form, so that it works by address too. */
export function CheckReceipt({
  code,
  found,
  zone,
}: {
  code: string;
  found: CheckedReceipt | null | undefined;
  zone: string;
}) {
  return (
    <div className="grid gap-5">
      <form action="/receipts" className="flex flex-wrap items-end gap-3">
        <div className="w-56">
          <TextField
            label="Code on the receipt"
            name="code"
            defaultValue={code}
            placeholder="7KQ2-M9XD"
            autoComplete="off"
            autoFocus
          />
        </div>
        <Button type="submit" ink="tide">
          Check
        </Button>
      </form>
      {found === null ? (
        <Notice ink="ember">
          No hand-in of your sections has this code. Letters O, I and L are read as 0 and 1; look
          whether a sign is missing.
        </Notice>
      ) : null}
      {found ? (
        <div>
          <Notice ink="moss" className="mb-3">
            This receipt is Almanac’s own: {found.student}, {found.section}.{" "}
            {found.pieceId ? (
              <Link href={`/desk?piece=${found.pieceId}`}>To the piece</Link>
            ) : (
              "It is read without its name just now."
            )}
          </Notice>
          <ReceiptCard receipt={found.receipt} zone={zone} title={found.title} />
        </div>
      ) : null}
    </div>
  );
}

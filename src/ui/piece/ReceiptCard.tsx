import type { Receipt } from "@/core/views/views";

/** The receipt of a hand-in: what the server stored, when, and how late that is. */
export function ReceiptCard({ receipt, zone }: { receipt: Receipt; zone: string }) {
  return (
    <section aria-label={`Receipt ${receipt.code}`} className="max-w-xl border border-line-strong bg-raised px-5 py-4">
      <p className="label">Receipt of Almanac</p>
      <p className="mt-1 font-serif text-2xl tracking-wide">{receipt.code}</p>
      <dl className="mt-3 grid grid-cols-[auto_1fr] gap-x-4 gap-y-1 text-sm">
        <dt className="text-soft">handed in</dt>
        <dd>
          {receipt.exactly} <span className="text-soft">({zone})</span>
        </dd>
        <dt className="text-soft">which is</dt>
        <dd className={receipt.late ? "font-semibold text-ember" : "text-moss"}>
          {receipt.late ? "◥ " : "✓ "}
          {receipt.lateness}
        </dd>
        <dt className="text-soft">what</dt>
        <dd>
          version {receipt.version}, round {receipt.round}, {receipt.words} words
        </dd>
        <dt className="text-soft">SHA-256</dt>
        <dd className="font-mono text-xs break-all">{receipt.sha256}</dd>
      </dl>
    </section>
  );
}

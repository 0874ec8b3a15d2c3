"use client";

import { sayCount } from "@/core/text/sayCount";
import { useState } from "react";
import type { Receipt } from "@/core/views/views";
import { Button } from "../../kit/Button";
import { classes } from "../../kit/classes";
import { saySize } from "../../transfers/saySize";

/** The receipt of a hand-in: what the server stored, when, and how late that is. It can be printed, or saved as text. */
export function ReceiptCard({
  receipt,
  zone,
  title,
}: {
  receipt: Receipt;
  zone: string;
  title: string;
}) {
  const [printing, setPrinting] = useState(false);
  function print() {
    setPrinting(true);
    // After it is drawn as the one thing to print.
    setTimeout(() => {
      window.print();
      setPrinting(false);
    }, 50);
  }
  function save() {
    const address = URL.createObjectURL(
      new Blob([receiptText(receipt, zone, title)], { type: "text/plain;charset=utf-8" }),
    );
    const link = document.createElement("a");
    link.href = address;
    link.download = `receipt ${receipt.code}.txt`;
    link.click();
    URL.revokeObjectURL(address);
  }
  return (
    <section
      aria-label={`Receipt ${receipt.code}`}
      className={classes(
        "max-w-xl border border-line-strong bg-raised px-5 py-4",
        printing && "print-this",
      )}
    >
      <div className="flex flex-wrap items-baseline justify-between gap-2">
        <p className="label">Receipt of Almanac</p>
        <span className="flex gap-2 print:hidden">
          <Button small className="max-sm:min-h-11" onClick={print}>
            Print
          </Button>
          <Button small className="max-sm:min-h-11" onClick={save}>
            Save
          </Button>
        </span>
      </div>
      <p className="mt-1 font-serif text-2xl tracking-wide">{receipt.code}</p>
      <p className="text-sm text-soft">{title}</p>
      <dl className="mt-3 grid grid-cols-[auto_minmax(0,1fr)] gap-x-4 gap-y-1 text-sm">
        {receipt.pressed ? (
          <>
            <dt className="text-soft">pressed</dt>
            <dd>
              {receipt.pressed.exactly}{" "}
              <span className="text-soft">
                by the device’s clock, before it could be sent
                {receipt.pressed.counts ? "; accepted by the teacher" : ""}
              </span>
            </dd>
          </>
        ) : null}
        <dt className="text-soft">{receipt.pressed ? "stored" : "handed in"}</dt>
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
          version {receipt.version}, round {receipt.round}, {sayCount(receipt.words, "word")}
          {receipt.files.length > 0
            ? `, ${receipt.files.length} ${receipt.files.length === 1 ? "file" : "files"}`
            : ""}
        </dd>
        <dt className="text-soft">SHA-256</dt>
        <dd className="font-mono text-xs break-all">{receipt.sha256}</dd>
        {receipt.files.map((file) => (
          <div key={file.name + file.sha256} className="contents">
            <dt className="min-w-0 max-w-40 break-words text-soft">{file.name}</dt>
            <dd className="font-mono text-xs break-all">
              {saySize(file.size)} · {file.sha256}
            </dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

export function receiptText(receipt: Receipt, zone: string, title: string): string {
  return [
    `Receipt of Almanac  ${receipt.code}`,
    title,
    ...(receipt.pressed
      ? [`pressed    ${receipt.pressed.exactly} by the device's clock, before it could be sent`]
      : []),
    `${receipt.pressed ? "stored   " : "handed in"}  ${receipt.exactly} (${zone})`,
    `which is   ${receipt.lateness}`,
    `what       version ${receipt.version}, round ${receipt.round}, ${sayCount(receipt.words, "word")}`,
    `SHA-256    ${receipt.sha256}`,
    ...receipt.files.map(
      (file) => `file       ${file.name}  ${file.size} bytes  SHA-256 ${file.sha256}`,
    ),
    "",
  ].join("\n");
}

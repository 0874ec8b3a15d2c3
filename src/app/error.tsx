"use client";

import { Button } from "@/ui/kit/Button";

export default function ErrorPage({
  error,
  reset,
}: {
  error: Error & { digest?: string };
  reset: () => void;
}) {
  return (
    <main className="mx-auto max-w-xl px-6 py-24">
      <p className="label">Something went wrong</p>
      <h1 className="mt-2">Almanac could not show this page.</h1>
      <p className="mt-4 text-soft">
        Nothing was changed. What you wrote is kept on this device and, as far as it was saved, on
        the server.
      </p>
      {error.digest ? (
        <p className="mt-2 text-soft">
          If it happens again, tell the office this number: {error.digest}
        </p>
      ) : null}
      <p className="mt-6">
        <Button onClick={reset}>Try again</Button>
      </p>
    </main>
  );
}

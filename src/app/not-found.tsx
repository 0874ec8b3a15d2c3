import Link from "next/link";

export default function NotFoundPage() {
  return (
    <main className="mx-auto max-w-xl px-6 py-24">
      <p className="label">No such page</p>
      <h1 className="mt-2">There is nothing here for you.</h1>
      <p className="mt-4 text-soft">
        The address may be mistyped, or what it names belongs to somebody else. Nothing of yours is
        lost.
      </p>
      <p className="mt-6">
        <Link href="/">To my first page</Link>
      </p>
    </main>
  );
}

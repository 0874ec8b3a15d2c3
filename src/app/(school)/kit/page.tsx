import { notFound } from "next/navigation";
import { KitPage } from "@/ui/kit/KitPage";

export const metadata = { title: "Kit" };

/** The building blocks on one page, in development only. */
export default function Kit() {
  if (process.env.NODE_ENV !== "development") notFound();
  return <KitPage />;
}

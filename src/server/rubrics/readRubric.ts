import type { Rubric } from "@/core/rubrics/rubric";
import type { Db } from "../db/connection";

/** A rubric with its name; null where there is none. */
export async function readRubric(
  db: Db,
  rubricId: string | null,
): Promise<{ id: string; name: string; content: Rubric } | null> {
  if (!rubricId) return null;
  const [row] = await db<
    { id: string; name: string; content: Rubric }[]
  >`select id, name, content from rubric where id = ${rubricId}`;
  return row ?? null;
}

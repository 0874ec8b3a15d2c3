import type { Db } from "./connection";

/** The newest migration in force, or null before the first. */
export async function migrationLevel(db: Db): Promise<string | null> {
  const [row] = await db<{ name: string | null }[]>`select max(name) as name from migration`;
  return row?.name ?? null;
}

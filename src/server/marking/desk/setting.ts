import { Invalid } from "@/core/refusals";
import type { SettingName } from "@/core/views/deskViews";
import { requireKind } from "../../access/standing";
import type { Call, ReadCall } from "../../call";

const MOST_CHARACTERS = 8000;

/** What a person has set for themselves, on whatever machine. */
export async function readSettings({
  db,
  who,
}: ReadCall): Promise<Partial<Record<SettingName, unknown>>> {
  const rows = await db<
    { name: SettingName; value: unknown }[]
  >`select name, value from person_setting where person_id = ${who.id}`;
  return Object.fromEntries(rows.map((r) => [r.name, r.value]));
}

export async function setSetting(
  { tx, who, now }: Call,
  { name, value }: { name: SettingName; value?: unknown },
): Promise<{ kept: true }> {
  // Reading aloud is anyone's to set; the rest is of the Desk.
  if (name !== "aloud") requireKind(who, "teacher");
  if (JSON.stringify(value ?? null).length > MOST_CHARACTERS)
    throw new Invalid({ value: "This is too long to be kept." });
  await tx`
    insert into person_setting (person_id, name, value, changed_at)
    values (${who.id}, ${name}, ${tx.json((value ?? null) as never)}, ${now})
    on conflict (person_id, name) do update
    set value = excluded.value, changed_at = excluded.changed_at`;
  return { kept: true };
}

import { isSetting, usableSettings, type OwnSettings } from "@/core/desk/settings";
import { Invalid } from "@/core/refusals";
import type { SettingName } from "@/core/views/deskViews";
import { requireKind } from "../../access/standing";
import type { Call, ReadCall } from "../../call";

/** What a person has set for themselves, on whatever machine. */
export async function readSettings({ db, who }: ReadCall): Promise<Partial<OwnSettings>> {
  return usableSettings(
    await db<
      { name: SettingName; value: unknown }[]
    >`select name, value from person_setting where person_id = ${who.id}`,
  );
}

/** @throws Invalid when the value has not the shape of such a setting */
export async function setSetting(
  { tx, who, now }: Call,
  { name, value }: { name: SettingName; value?: unknown },
): Promise<{ kept: true }> {
  // Reading aloud is anyone's to set; the rest is of the Desk.
  if (name !== "aloud") requireKind(who, "teacher");
  if (!isSetting(name, value)) throw new Invalid({ value: "This cannot be kept." });
  await tx`
    insert into person_setting (person_id, name, value, changed_at)
    values (${who.id}, ${name}, ${tx.json(value as never)}, ${now})
    on conflict (person_id, name) do update
    set value = excluded.value, changed_at = excluded.changed_at`;
  return { kept: true };
}

import { expect, test } from "@jest/globals";
import { sayDrag } from "./sayDrag";

test("what is moved goes by its name, and so do the places; no id is read out", () => {
  const { announcements } = sayDrag(
    (id) => ({ "7f": "Rainfall log" })[id] ?? "",
    (id) => `day ${id}`,
  );
  const active = { id: "7f" };
  const over = { id: "9" };
  const said = [
    announcements.onDragStart({ active } as never),
    announcements.onDragOver({ active, over } as never),
    announcements.onDragOver({ active, over: null } as never),
    announcements.onDragEnd({ active, over } as never),
    announcements.onDragCancel({ active, over } as never),
  ];
  expect(said).toEqual([
    "Picked up: Rainfall log.",
    "Over day 9.",
    "No place to put it here.",
    "Rainfall log: put on day 9.",
    "Rainfall log stays where it was.",
  ]);
});

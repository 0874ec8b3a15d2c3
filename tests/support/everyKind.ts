import { aPart } from "../../src/core/handouts/parts";
import type { Person } from "../../src/server/call";
import type { Sql } from "../../src/server/db/connection";
import { handOut } from "../../src/server/handouts/handOut";
import { handIn } from "../../src/server/pieces/moves";
import { asPerson } from "./database";
import { photo, putFile, recording } from "./files";
import { planFor } from "./handOut";
import { writePdf } from "./pdf";

const FILES = "00000000-0000-4000-8000-0000000000f1";
const PHOTOS = "00000000-0000-4000-8000-0000000000f2";
const FILM = "00000000-0000-4000-8000-0000000000f4";
const SOUND = "00000000-0000-4000-8000-0000000000f3";

/** A page's /Rotate and /CropBox, and a spot on it in the PDF's own points. */
export const SPOTS = ([0, 90, 180, 270] as const).map((rotate) => ({
  rotate,
  crop: [36, 72, 576, 720] as [number, number, number, number],
  x: 150,
  y: 600,
}));
const LINES = [
  { x: 100, y: 700, text: "We measured the evapora-" },
  { x: 100, y: 680, text: "tion of water in a dish." },
];
const ODD = {
  type: "doc",
  content: [
    {
      type: "paragraph",
      content: [
        { type: "text", text: "The crew 👩‍🚀👨‍👩‍👧 waved, in the cafe\u0301, at 5\u00a0mm of rain." },
      ],
    },
    { type: "paragraph", content: [{ type: "text", text: "She wrote שלום עולם on the sand." }] },
    {
      type: "bulletList",
      content: [
        {
          type: "listItem",
          content: [{ type: "paragraph", content: [{ type: "text", text: "first point" }] }],
        },
        {
          type: "listItem",
          content: [{ type: "paragraph", content: [{ type: "text", text: "second point" }] }],
        },
      ],
    },
    {
      type: "table",
      content: [
        {
          type: "tableRow",
          content: ["12 mm", "7 mm"].map((text) => ({
            type: "tableCell",
            attrs: { colspan: 1, rowspan: 1 },
            content: [{ type: "paragraph", content: [{ type: "text", text }] }],
          })),
        },
      ],
    },
  ],
};

/** Work of every kind in the demo school: one student hands in all of it, a second a few words. */
export async function everyKind(sql: Sql): Promise<{
  odalys: Person;
  ruben: Person;
  student: Person;
  handOutId: string;
  pieceId: string;
  second: string;
}> {
  const person = async (name: string) =>
    (
      await sql<
        Person[]
      >`select person.id, kind, person.name, called, school_id, time_zone as zone from person join school on school.id = school_id where person.name = ${name}`
    )[0]!;
  const [odalys, ruben] = [await person("Odalys Brandt"), await person("Ruben Achterberg")];
  const [gannet] = await sql<{ id: string }[]>`select id from section where name = 'Gannet'`;
  const plan = planFor(gannet!.id, {
    title: "Every kind",
    instructions: ODD,
    expects: "work",
    points: "10",
    opens: null,
    due: "2030-01-01T16:00",
    closes: null,
    promised: null,
    graceMinutes: 0,
    mayTakeBack: true,
  });
  plan.work.parts = [
    ...plan.work.parts,
    aPart(FILES, "files"),
    aPart(PHOTOS, "photos"),
    aPart(SOUND, "sound"),
    aPart(FILM, "film"),
  ];
  const { handOuts } = await asPerson(sql, odalys).change(new Date(), (call) =>
    handOut(call, { plan, draftId: null, pastIsMeant: false }),
  );
  const handOutId = handOuts[0]!.id;
  const pieces = await sql<
    { id: string; studentId: string; name: string }[]
  >`select piece.id, piece.student_id, person.name from piece join person on person.id = student_id where hand_out_id = ${handOutId} order by sort_name limit 2`;
  const [pieceId, second] = [pieces[0]!.id, pieces[1]!.id];
  const student = await person(pieces[0]!.name);
  const now = new Date();
  await putFile(
    sql,
    student,
    pieceId,
    FILES,
    "turned.pdf",
    writePdf([...SPOTS.map(({ rotate, crop }) => ({ rotate, crop })), { lines: LINES }]),
    now,
  );
  await putFile(sql, student, pieceId, PHOTOS, "graph.jpg", await photo(800, 600, 1), now);
  await putFile(sql, student, pieceId, SOUND, "spoken.webm", await recording("sound", 6), now);
  await putFile(sql, student, pieceId, FILM, "gauge.webm", await recording("film", 8), now);
  await asPerson(sql, student).change(now, (call) =>
    handIn(call, pieceId, { doc: ODD as never }, 0),
  );
  await asPerson(sql, await person(pieces[1]!.name)).change(now, (call) =>
    handIn(
      call,
      second,
      {
        doc: {
          type: "doc",
          content: [{ type: "paragraph", content: [{ type: "text", text: "It rained all day." }] }],
        } as never,
      },
      0,
    ),
  );
  return { odalys, ruben, student, handOutId, pieceId, second };
}

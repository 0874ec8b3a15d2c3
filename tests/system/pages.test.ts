import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { readdirSync, statSync } from "node:fs";
import path from "node:path";
import { beginSession } from "../../src/server/auth/sessions";
import { startApp, type App } from "../support/app";
import { testDatabase, type TestDatabase } from "../support/database";

/** Every page as everyone, and the headers of every answer. */
let database: TestDatabase;
let app: App;
const ids: Record<string, string> = {};
const tokens: Record<string, string> = {};

beforeAll(async () => {
  database = await testDatabase("almanac_demo");
  const one = async (query: Promise<{ id: string }[]>) => (await query)[0]!.id;
  const { sql } = database;
  ids.sectionId = await one(sql`select id from section where name = 'Gannet'`);
  ids.handOutId = await one(
    sql`select hand_out.id from hand_out where section_id = ${ids.sectionId} order by due_at limit 1`,
  );
  ids.pieceId = await one(
    sql`select id from piece where hand_out_id = ${ids.handOutId} and state = 'handed_back' order by id limit 1`,
  );
  ids.withRubric = await one(
    sql`select hand_out.id from hand_out join assignment on assignment.id = assignment_id where section_id = ${ids.sectionId} and rubric_id is not null limit 1`,
  );
  ids.withQuestions = await one(
    sql`select hand_out.id from hand_out join assignment_questions using (assignment_id) limit 1`,
  );
  ids.studentId = await one(sql`select student_id as id from piece where id = ${ids.pieceId}`);
  const people: Record<string, string> = {
    owner: await one(sql`select id from person where name = 'Odalys Brandt'`),
    "co-teacher": await one(sql`select id from person where name = 'Ruben Achterberg'`),
    "other teacher": await one(sql`select id from person where name = 'Imke Solheim'`),
    student: await one(sql`select student_id as id from piece where id = ${ids.pieceId}`),
    classmate: await one(
      sql`select student_id as id from piece where hand_out_id = ${ids.handOutId} and id <> ${ids.pieceId} and state = 'handed_back' and exists (select from version where piece_id = piece.id) limit 1`,
    ),
    guardian: await one(sql`select id from person where kind = 'guardian' limit 1`),
    office: await one(sql`select id from person where kind = 'office'`),
  };
  // A look that the classmate was asked for; the display of this hand-out is open in the demo.
  const checkpoint = await one(sql`
    insert into checkpoint (id, piece_id, round_number, number, doc, text, words, answers, sent_at)
    values (gen_random_uuid(), ${ids.pieceId}, 1, 99, '{"type":"doc","content":[]}', '', 0, '{}', now())
    returning id`);
  ids.lookId = await one(sql`
    insert into look (id, piece_id, checkpoint_id, reader_id, question, named, asked_at, ends_at)
    values (gen_random_uuid(), ${ids.pieceId}, ${checkpoint}, ${people.classmate!}, 'Clear?', true, now(), now() + interval '1 day')
    returning id`);
  for (const [role, id] of Object.entries(people))
    tokens[role] = await beginSession(sql, id, new Date());
  app = await startApp(database.url);
});
afterAll(async () => {
  await app?.stop();
  await database?.drop();
});

const ROOT = path.join(process.cwd(), "src/app/(school)");
const pages = (folder: string): string[] =>
  readdirSync(folder).flatMap((name) => {
    const file = path.join(folder, name);
    return statSync(file).isDirectory()
      ? pages(file)
      : name === "page.tsx"
        ? [`/${path.relative(ROOT, folder)}`]
        : [];
  });

const TEACHERS = ["owner", "co-teacher", "other teacher"];
/** Who sees each page; a page that is not listed fails the test. */
const SEEN_BY: Record<string, string[]> = {
  "/today": TEACHERS,
  "/today/plan": TEACHERS,
  "/today/list": TEACHERS,
  "/desk": TEACHERS,
  "/desk/criterion": ["owner", "co-teacher"],
  // Of a section that has no co-teacher.
  "/desk/answers": ["owner"],
  "/ledger": TEACHERS,
  "/ledger/[sectionId]": ["owner", "co-teacher"],
  "/ledger/[sectionId]/grades/[studentId]": ["owner", "co-teacher"],
  "/grades": ["student", "classmate", "guardian"],
  "/sections": TEACHERS,
  "/sections/[sectionId]": ["owner", "co-teacher", "office"],
  "/sections/[sectionId]/set-up": ["owner", "co-teacher"],
  "/hand-out": TEACHERS,
  // The co-teacher of the demo may not hand back.
  "/hand-back": ["owner"],
  "/students/[studentId]": ["owner", "co-teacher"],
  "/hand-outs/[handOutId]/change": ["owner"],
  "/calendar": TEACHERS,
  "/shelf/comments": TEACHERS,
  "/shelf/rubrics": TEACHERS,
  "/shelf/files": TEACHERS,
  "/shelf/questions": TEACHERS,
  "/receipts": TEACHERS,
  "/reminders": ["student", "classmate"],
  // In the demo everyone reads their own messages there.
  "/post-room": [...TEACHERS, "student", "classmate", "guardian", "office"],
  "/account": [...TEACHERS, "student", "classmate", "guardian", "office"],
  "/office/limits": ["office"],
  "/office/scales": ["office"],
  "/feed": [...TEACHERS, "student", "classmate"],
  "/office/roster": ["office"],
  "/office/calendar": ["office"],
  "/office/people": ["office"],
  "/hand-outs/[handOutId]": ["owner", "co-teacher"],
  "/displays/[handOutId]": ["owner", "co-teacher", "student", "classmate"],
  "/looks/[lookId]": ["owner", "co-teacher", "student", "classmate"],
  "/letters": [...TEACHERS, "student", "classmate", "guardian"],
  "/questions": TEACHERS,
  "/shelf": TEACHERS,
  "/work": ["student", "classmate"],
  "/work/[pieceId]": ["student"],
  "/week": ["guardian"],
  "/office": ["office"],
  "/kit": [],
};
/** What a page is about where its address does not say it. */
const ABOUT: Record<string, () => string> = {
  "/desk/criterion": () => `?handOut=${ids.withRubric}`,
  "/desk/answers": () => `?handOut=${ids.withQuestions}`,
  "/hand-back": () => `?handOut=${ids.handOutId}`,
};
/** What addresses of pages say under a name. */
const NAMES = [
  ...["handed", "of", "handOut", "act", "code", "find", "term", "beside", "pile", "piece", "from"],
  ...["criterion", "name", "days", "month", "section", "draft", "changed"],
];
const LONG = "b,".repeat(150);
const addressOf = (page: string) =>
  page.replace(/\[(\w+)\]/g, (_, name: string) => ids[name]!) + (ABOUT[page]?.() ?? "");
const get = (address: string, role?: string) =>
  fetch(app.origin + address, {
    redirect: "manual",
    headers: role ? { cookie: `almanac_session=${tokens[role]}` } : {},
  });

test("every page says here who sees it", () =>
  expect(pages(ROOT).sort()).toEqual(Object.keys(SEEN_BY).sort()));

describe.each(Object.keys(SEEN_BY))("%s", (page) => {
  test("is seen by those it belongs to, and is not there for anybody else", async () => {
    for (const role of Object.keys(tokens)) {
      const { status } = await get(addressOf(page), role);
      const seen = SEEN_BY[page]!.includes(role);
      expect({
        page,
        role,
        seen: status === 200 || (page === "/ledger" && status === 307),
      }).toEqual({ page, role, seen });
      if (!seen) expect(status).toBe(404);
    }
  });
  test("takes any address: a name said twice, much too long, or with what no text may hold", async () => {
    const [address] = addressOf(page).split("?");
    for (const odd of [
      (name: string) => `${name}=a%00&${name}=b`,
      (name: string) => `${name}=${LONG}`,
    ])
      for (const query of [odd("view"), "view=term"]) {
        const all = [query, ...NAMES.map(odd)].join("&");
        const { status } = await get(`${address}?${all}`, SEEN_BY[page]![0]);
        expect({ page, all, server: status >= 500 }).toEqual({ page, all, server: false });
      }
  });
  test("leads to the sign-in page when signed out", async () => {
    const answer = await get(addressOf(page));
    expect(answer.status).toBe(307);
    expect(answer.headers.get("location")).toMatch(/\/sign-in$/);
  });
});

test("a desk asked for another teacher's hand-out is not there", async () => {
  expect((await get(`/desk?pile=all&handOut=${ids.handOutId}`, "other teacher")).status).toBe(404);
});

test("no page runs a script that is not its own: a policy with a fresh nonce, and the usual headers", async () => {
  const [first, second] = [await get("/sign-in"), await get("/sign-in")];
  const policy = first.headers.get("content-security-policy")!;
  const scripts = policy.split("; ").find((part) => part.startsWith("script-src"))!;
  expect(scripts).not.toContain("unsafe-inline");
  expect(scripts).not.toContain("unsafe-eval");
  const nonce = /'nonce-([^']+)'/.exec(scripts)![1];
  expect(second.headers.get("content-security-policy")).not.toContain(nonce);
  for (const tag of (await first.text()).match(/<script[^>]*>/g) ?? [])
    expect(tag).toContain(`nonce="${nonce}"`);
  expect(
    Object.fromEntries(
      ["x-content-type-options", "x-frame-options", "referrer-policy"].map((name) => [
        name,
        first.headers.get(name),
      ]),
    ),
  ).toEqual({
    "x-content-type-options": "nosniff",
    "x-frame-options": "DENY",
    "referrer-policy": "same-origin",
  });
});

test("the session's cookie is not for scripts, and Secure where the address is https", async () => {
  const [person] = await database.sql<
    { id: string }[]
  >`select id from person where kind = 'office'`;
  const enter = await fetch(`${app.origin}/api/demo/enter`, {
    method: "POST",
    headers: { "content-type": "application/json", origin: app.origin },
    body: JSON.stringify({ personId: person!.id }),
  });
  expect(enter.headers.get("set-cookie")).toMatch(
    /^almanac_session=[\w-]{43}; Path=\/; HttpOnly; SameSite=Lax; Max-Age=\d+$/,
  );
  const behindTls = await startApp(database.url, { ALMANAC_ORIGIN: "https://almanac.example.org" });
  const secure = await fetch(`${behindTls.origin}/api/demo/enter`, {
    method: "POST",
    headers: { "content-type": "application/json", origin: "https://almanac.example.org" },
    body: JSON.stringify({ personId: person!.id }),
  });
  expect(secure.headers.get("set-cookie")).toMatch(/; Secure$/);
  await behindTls.stop();
});

test("outside the demo the sign-in page lists nobody", async () => {
  const production = await startApp(database.url, { ALMANAC_MODE: "production" });
  const page = await (await fetch(`${production.origin}/sign-in`)).text();
  expect(page).not.toContain("Odalys");
  expect(page).toContain("Sign in");
  await production.stop();
});

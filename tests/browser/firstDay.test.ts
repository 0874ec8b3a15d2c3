import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { By, Key } from "selenium-webdriver";
import { beginSchool } from "../../src/server/auth/beginSchool";
import { startApp, type App } from "../support/app";
import { openBrowser, type Browser } from "../support/browser";
import { testDatabase, type TestDatabase } from "../support/database";

/** The first day of an empty school, in the real interface: a teacher alone, and an office. */
let database: TestDatabase;
let app: App;
let browser: Browser;

beforeAll(async () => {
  database = await testDatabase();
  app = await startApp(database.url);
  browser = await openBrowser(app.origin);
});
afterAll(async () => {
  await browser?.close();
  await app?.stop();
  await database?.drop();
});

const NAMES =
  "Aino Brekke,Bror Calder,Cleo Dahl,Dag Ekeland,Eira Foss,Finn Gade,Gro Holm,Hauk Iversen,Ines Juul,Jon Krag,Kaia Lund,Leif Moen,Mira Nygaard,Nils Omdal,Oda Prytz,Per Quist,Runa Rosk,Siv Strand,Tor Tveit,Una Vang".split(
    ",",
  );
const field = (label: string) =>
  browser.driver.findElement(
    By.xpath(
      `//label[starts-with(normalize-space(), "${label}")]/following::*[self::input or self::textarea or self::select][1]`,
    ),
  );

/** Signs in with a first password, and chooses one's own. */
async function signIn(email: string, password: string): Promise<void> {
  await browser.driver.manage().deleteAllCookies();
  await browser.go("/sign-in");
  await browser.awake("form");
  const named = (name: string) => browser.driver.findElement(By.name(name));
  await named("name").sendKeys(email);
  await named("password").sendKeys(password, Key.ENTER);
  await browser.find("input[name=current]");
  await browser.awake("form");
  await named("current").sendKeys(password);
  for (const name of ["password", "again"]) await named(name).sendKeys("four dry harbours");
  await browser.keys(Key.ENTER);
  await browser.driver.wait(
    async () => !(await browser.driver.getCurrentUrl()).includes("/account"),
    60_000,
  );
}

const given = {
  school: "Skerry School",
  zone: "Europe/Dublin",
  name: "Una Rowe",
  email: "una@skerry.example",
};

describe("a teacher alone", () => {
  test("makes a class of 20 from a list, prints first passwords and hands out: 12 actions at most", async () => {
    const { password } = await beginSchool(database.sql, { ...given, alone: true }, new Date());
    await signIn(given.email, password);
    await browser.waitForText("You teach no section yet");
    // The next step, in place: once on each screen.
    await browser.waitForText("What waits for you now", "main [role=status]");
    await browser.press("I see");
    await browser.driver.wait(
      async () => !(await browser.text("main")).includes("What waits for you now"),
      60_000,
    );
    await browser.awake("form[class]");
    let actions = 0;
    const type = async (label: string, text: string) => {
      actions += 1;
      await field(label).sendKeys(text);
    };
    const press = async (words: string) => {
      actions += 1;
      await browser.press(words);
    };
    await type("Course", "Field Writing");
    await type("Section", "Petrel");
    await type("Students", NAMES.join("\n"));
    await press("Make the class");
    await browser.waitForText("20 students cannot sign in yet");
    await press("First passwords…");
    await press("Make 20 passwords");
    await browser.find(".print-this");
    expect(await browser.driver.findElements(By.css(".print-this tbody tr"))).toHaveLength(20);
    expect(await browser.text(".print-this")).toContain("aino.brekke");
    actions += 1;
    await browser.keys(Key.ESCAPE);
    await press("Hand out");
    await browser.waitForText("Students");
    await browser.find(".ProseMirror");
    await type("Title", "A letter home");
    await press("Hand out to Petrel");
    await browser.waitForText("A letter home", "h1");
    expect(actions).toBeLessThanOrEqual(12);
    const [made] = await database.sql<
      { students: number }[]
    >`select count(*)::int as students from piece join person on person.id = student_id join school on school.id = person.school_id where school.name = ${given.school}`;
    expect(made).toEqual({ students: 20 });
  });

  test("keeps the school: its days, people and terms are on the office's pages", async () => {
    await browser.press("Una Rowe");
    const items = By.xpath('//*[@role="menuitem"][starts-with(., "The school")]');
    await browser.driver.wait(
      async () => (await browser.driver.findElements(items)).length > 0,
      60_000,
    );
    await browser.driver.findElement(items).click();
    await browser.press("School calendar");
    await browser.waitForText("Terms");
    await browser.go("/office/people");
    await browser.waitForText("aino.brekke");
  });
});

describe("an office of an empty school", () => {
  test("adds a teacher by hand, a class by a table with roles, and another section for the teacher", async () => {
    const office = { ...given, school: "Holm School", name: "Ada Lind", email: "ada@holm.example" };
    const { password } = await beginSchool(database.sql, office, new Date());
    await signIn(office.email, password);
    await browser.waitForText("This school has no class yet");
    const [school] = await database.sql<
      { id: string }[]
    >`select id from school where name = 'Holm School'`;
    await database.sql`insert into term (id, school_id, name, starts_on, ends_on) values (${crypto.randomUUID()}, ${school!.id}, 'Autumn', current_date - 30, current_date + 90)`;
    await browser.go("/office/people");
    await browser.awake("form");
    await field("Name").sendKeys("Rubén Aas");
    await field("E-mail").sendKeys("ruben@holm.example");
    await browser.press("Add to the school");
    await browser.waitForText("ruben@holm.example", "table");
    await browser.go("/office/roster");
    await browser.awake("textarea");
    await field("or paste a table").sendKeys(
      "name;e-mail;section;course;role\nRubén Aas;ruben@holm.example;7a;Writing;teacher\nEira Foss;eira@holm.example;7a;Writing;student\n",
    );
    await browser.press("See what it would change");
    await browser.press("Apply");
    await browser.waitForText("Applied");
    await browser.go("/office");
    await browser.waitForText("7a", "table");
    await browser.driver.findElement(By.css("details summary")).click();
    await browser.awake("form");
    await field("Course").sendKeys("Writing");
    await field("Section").sendKeys("7b");
    await field("Teacher").sendKeys("Rubén");
    await browser.press("Make the section");
    await browser.waitForText("7b", "table");
    const owners = await database.sql<{ name: string; section: string }[]>`
      select person.name, section.name as section
      from section_teacher
      join section on section.id = section_id
      join person on person.id = person_id
      where person.school_id = ${school!.id} order by section.name`;
    expect(owners).toEqual([
      { name: "Rubén Aas", section: "7a" },
      { name: "Rubén Aas", section: "7b" },
    ]);
    // One course, though it was said three times.
    expect(await database.sql`select id from course where school_id = ${school!.id}`).toHaveLength(
      1,
    );
  });
});

import type postgres from "postgres";
import type { Db } from "./connection";

type Column = {
  name: string;
  type: number;
  parser?: ((raw: string) => unknown) & { array?: true };
};
type Row = Record<string, unknown>;
type Waiting = {
  asked: Asked;
  resolve: (rows: Row[]) => void;
  reject: (reason: unknown) => void;
};

/** How many readings go as one statement at most: a plan of more takes longer to make than it saves. */
const MOST_TOGETHER = 24;
const BOOLEAN = 16;
const READS = /^\s*(select|with)\b/i;
const CHANGES = /\b(insert\s+into|update|delete\s+from)\b/i;

/**
 * The same database, for a page that reads many small things of one piece: readings that are asked for in the same
 * turn of the event loop go as one statement, and so are of one moment. Each reader stays as it is. Values come
 * as PostgreSQL writes them and are read by the driver's own parsers, so a row is the same row either way.
 * Whatever changes something goes by itself. An error of one reading is the error of all that went with it.
 */
export function gathering(db: Db): Db {
  const gather = new Gathering(db);
  const tag = (first: unknown, ...rest: unknown[]) =>
    isTemplate(first)
      ? new Asked(gather, first, rest)
      : (db as unknown as (...given: unknown[]) => unknown)(first, ...rest);
  return Object.assign(tag, { json: db.json, unsafe: db.unsafe, apart: db }) as unknown as Db;
}

/** The same database for a reading of thousands of rows: it goes by itself, beside what goes together. */
export const apart = (db: Db): Db => (db as { apart?: Db }).apart ?? db;

const isTemplate = (value: unknown): value is TemplateStringsArray =>
  Array.isArray(value) && "raw" in value;

/** A reading that was written down and not yet asked for; it is asked for when it is awaited. Alone it is a fragment of another. */
class Asked implements PromiseLike<Row[]> {
  #rows: Promise<Row[]> | null = null;

  constructor(
    private readonly gather: Gathering,
    readonly strings: TemplateStringsArray,
    readonly values: readonly unknown[],
  ) {}

  then<A = Row[], B = never>(
    done?: ((rows: Row[]) => A | PromiseLike<A>) | null,
    failed?: ((reason: unknown) => B | PromiseLike<B>) | null,
  ): Promise<A | B> {
    this.#rows ??= this.gather.ask(this);
    return this.#rows.then(done, failed);
  }

  catch<B>(failed: (reason: unknown) => B | PromiseLike<B>): Promise<Row[] | B> {
    return this.then(null, failed);
  }

  /** The text without its values: readings of one text have the same columns. */
  get text(): string {
    return this.strings.map((part, n) => part + textOf(this.values[n])).join("");
  }
}

function textOf(value: unknown): string {
  if (value instanceof Asked) return value.text;
  if (Array.isArray(value) && value[0] instanceof Asked) return value.map(textOf).join(" ");
  // A name of a column (`db(name)`) is part of the text; values and lists of them are not.
  return isName(value) ? value.value : "?";
}
const isName = (value: unknown): value is { value: string } =>
  typeof value === "object" &&
  value !== null &&
  value.constructor.name === "Identifier" &&
  "value" in value;

class Gathering {
  #waiting: Waiting[] = [];

  constructor(private readonly db: Db) {}

  ask(asked: Asked): Promise<Row[]> {
    if (!READS.test(asked.strings[0]!) || CHANGES.test(asked.text)) return this.alone(asked);
    return new Promise((resolve, reject) => {
      if (this.#waiting.length === 0) setImmediate(() => this.send());
      this.#waiting.push({ asked, resolve, reject });
    });
  }

  private send(): void {
    const all = this.#waiting;
    this.#waiting = [];
    for (let n = 0; n < all.length; n += MOST_TOGETHER)
      void this.sendTogether(all.slice(n, n + MOST_TOGETHER));
  }

  private async sendTogether(some: readonly Waiting[]): Promise<void> {
    try {
      const found =
        some.length === 1
          ? [await this.alone(some[0]!.asked)]
          : await this.inOne(some.map(({ asked }) => asked));
      some.forEach(({ resolve }, n) => resolve(found[n]!));
    } catch (error) {
      for (const { reject } of some) reject(error);
    }
  }

  private async alone(asked: Asked): Promise<Row[]> {
    return (await this.queryOf(asked)) as unknown as Row[];
  }

  private async inOne(all: readonly Asked[]): Promise<Row[][]> {
    const columns = await Promise.all(all.map((asked) => this.columnsOf(asked)));
    const parts = all.map((asked, n) => this.partOf(asked, columns[n]!, n));
    const [row] = await this.db<Record<string, (string | null)[][] | null>[]>`select ${parts}`;
    return columns.map((its, n) => (row![`r${n}`] ?? []).map((values) => rowOf(its, values)));
  }

  /** One reading as a column of the whole: its rows, each a list of its values as text. */
  private partOf(asked: Asked, columns: readonly Column[], n: number) {
    const names = columns.map((_, at) => `c${at}`);
    const text = names.map((name) => `${name}::text`).join(", ");
    const { db } = this;
    return db`${db.unsafe(`${n === 0 ? "" : ", "}(select json_agg(json_build_array(${text})) from (`)}
      ${this.queryOf(asked)}
      ${db.unsafe(`) as reading(${names.join(", ")})) as r${n}`)}`;
  }

  /** The driver's own query; it runs when awaited, and is a fragment within another. */
  private queryOf({ strings, values }: Asked): postgres.PendingQuery<postgres.Row[]> {
    const own = values.map((value) => {
      if (value instanceof Asked) return this.queryOf(value);
      if (Array.isArray(value) && value[0] instanceof Asked)
        return (value as Asked[]).map((each) => this.queryOf(each));
      return value;
    });
    return this.db(strings, ...(own as never[]));
  }

  /** Which columns a reading has: asked of the database once for each text. */
  private columnsOf(asked: Asked): Promise<readonly Column[]> {
    let known = KNOWN.get(this.db.json);
    if (!known) KNOWN.set(this.db.json, (known = new Map<string, Promise<readonly Column[]>>()));
    const { text } = asked;
    const found = known.get(text) ?? this.describe(asked);
    if (!known.has(text)) {
      known.set(text, found);
      // What failed once is asked again.
      found.catch(() => known.delete(text));
    }
    return found;
  }

  private async describe(asked: Asked): Promise<readonly Column[]> {
    const { columns } = await this.queryOf(asked).describe();
    return columns as unknown as readonly Column[];
  }
}
/**
 * By pool, as the numbers of types differ between databases: of all that the driver gives, this function is the same in
 * a pool and in each of its transactions. The texts stand in the code, so there is an end to them.
 */
const KNOWN = new WeakMap<Db["json"], Map<string, Promise<readonly Column[]>>>();

function rowOf(columns: readonly Column[], values: readonly (string | null)[]): Row {
  const row: Row = {};
  columns.forEach((column, n) => {
    const value = values[n] ?? null;
    row[column.name] = value === null ? null : valueOf(column, value);
  });
  return row;
}

/** As the driver reads it: a truth value comes to it as a letter, and the parser of a list after its first brace. */
function valueOf({ type, parser }: Column, text: string): unknown {
  if (!parser) return text;
  const asSent = type === BOOLEAN ? text.charAt(0) : text;
  return parser(parser.array ? asSent.slice(1) : asSent);
}

/**
 * The four ways in which Almanac says no. Everything else that is thrown is a bug.
 *
 * `reason` is a whole sentence for the person who asked: it says what is wrong and, where
 * something of theirs is at stake, that it is safe.
 */
export class Refused extends Error {
  readonly status = 409;
  constructor(readonly reason: string) {
    super(reason);
    this.name = "Refused";
  }
}

/** Not there, or not yours: the two are never told apart. */
export class NotFound extends Error {
  readonly status = 404;
  constructor() {
    super("There is nothing here for you.");
    this.name = "NotFound";
  }
}

/** A field does not hold what it should. `fields` maps the field's path to a sentence about it. */
export class Invalid extends Error {
  readonly status = 422;
  constructor(readonly fields: Readonly<Record<string, string>>) {
    super(Object.values(fields)[0] ?? "Something in this form is not right.");
    this.name = "Invalid";
  }
}

/** Someone else changed it first. `theirs` is what stands now, so that both can be shown. */
export class Conflict extends Error {
  readonly status = 412;
  constructor(
    readonly reason: string,
    readonly theirs: unknown,
  ) {
    super(reason);
    this.name = "Conflict";
  }
}

import { ValidationError, type AnyObject, type ObjectSchema } from "yup";

/** What a schema says is wrong, in words, by field; the same in a form and on the server. */
export function faultsOfError(error: ValidationError): Record<string, string> {
  const faults = error.inner.length > 0 ? error.inner : [error];
  return Object.fromEntries(faults.map((fault) => [fault.path || "body", fault.message]));
}

/** What is wrong with a body before it is sent; empty when nothing is. */
export function faultsOfBody<Body extends AnyObject>(
  schema: ObjectSchema<Body>,
  value: unknown,
): Record<string, string> {
  try {
    schema.validateSync(value, { abortEarly: false, strict: true });
    return {};
  } catch (error) {
    if (error instanceof ValidationError) return faultsOfError(error);
    throw error;
  }
}

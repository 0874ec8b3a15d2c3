/** Stands for the part of the upload package that serves Node's own http server, which is not used here. */
export function toNodeHandler(): never {
  throw new Error("the upload protocol is asked in its web form");
}

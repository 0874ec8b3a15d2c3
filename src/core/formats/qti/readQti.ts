import type { Element as Node, ChildNode } from "domhandler";
import type { Choice, Question } from "../../questions/question";
import { readTree } from "../boundedTags";

/** A question's text and its choices stand some ten elements deep. */
const DEEPEST = 60;

/**
 * Reads a QTI 3.0 assessment item (also 2.x, whose names lack the "qti-") of a kind Almanac has. What cannot be
 * read is said, and never guessed. Nothing outside the text is fetched; a DOCTYPE is refused.
 *
 * @param newId gives a fresh id for the question and each of its choices
 */
export function readQtiItem(
  xml: string,
  newId: () => string,
): { ok: true; question: Question } | { ok: false; why: string } {
  if (/<!DOCTYPE|<!ENTITY/i.test(xml))
    return no("it declares entities of its own (DOCTYPE), which are not read");
  const { children, whole } = readTree(xml, { xmlMode: true, deepest: DEEPEST });
  if (!whole) return no("it is nested deeper than any question is");
  const item = find(children, "assessment-item")[0];
  if (!item) return no("there is no assessment item in it");
  const declarations = find(item.children, "response-declaration");
  const body = find(item.children, "item-body")[0];
  if (!body) return no("the item has no body");
  const interactions = all(body).filter((n) => /-interaction$/.test(local(n)));
  const [interaction, another] = interactions;
  if (!interaction) return no("it asks nothing that is answered here");
  if (another) return no(`it has ${interactions.length} interactions; one question has one`);
  const named = attr(interaction, "response-identifier", "responseIdentifier");
  const declaration = declarations.find((d) => d.attribs.identifier === named) ?? declarations[0];
  if (!declaration) return no("the item declares no response");
  const correct = find(declaration.children, "correct-response")[0] ?? declaration;
  const points = pointsOf(item, declaration);
  return questionOf({
    item,
    interaction,
    declaration,
    key: find(all(correct), "value").map(words),
    base: {
      id: newId(),
      text: questionText(body, interaction),
      points: /^\d{1,4}(\.\d+)?$/.test(points) ? String(Number(points)) : "1",
    },
    newId,
  });
}

type Base = { id: string; text: string; points: string };
type Asked = {
  item: Node;
  interaction: Node;
  declaration: Node;
  key: string[];
  base: Base;
  newId: () => string;
};

function pointsOf(item: Node, declaration: Node): string {
  const most = find(all(item), "outcome-declaration")
    .filter((o) => o.attribs.identifier === "MAXSCORE")
    .map((o) => words(o))[0];
  return most || mappedMost(declaration) || "1";
}

function questionOf(asked: Asked): Result {
  const { interaction, base } = asked;
  switch (local(interaction)) {
    case "choice-interaction":
      return choiceQuestion(asked);
    case "order-interaction":
      return orderQuestion(asked);
    case "match-interaction":
      return matchQuestion(asked);
    case "text-entry-interaction":
      return entryQuestion(asked);
    case "extended-text-interaction":
      return yes({
        ...base,
        kind: "free text",
        lines: Number(attr(interaction, "expected-lines", "expectedLines")) || 3,
      });
    default:
      return no(`“${local(interaction)}” is a kind of question Almanac does not have`);
  }
}

type Result = ReturnType<typeof readQtiItem>;
const yes = (question: Question): Result => ({ ok: true, question });
const no = (why: string): Result => ({ ok: false, why });

const isElement = (n: ChildNode): n is Node => n.type === "tag";
/** The name without a prefix and without "qti-"; 2.x wrote choiceInteraction where 3.0 writes choice-interaction. */
const local = (n: Node) =>
  n.name
    .replace(/^[^:]*:/, "")
    .replace(/^qti-/, "")
    .replace(/[A-Z]/g, (c) => `-${c.toLowerCase()}`);
const all = (node: { children: ChildNode[] }): Node[] =>
  node.children.filter(isElement).flatMap((n) => [n, ...all(n)]);
const find = (nodes: readonly ChildNode[], name: string): Node[] =>
  nodes.filter(isElement).filter((n) => local(n) === name);
const attr = (n: Node, ...names: string[]) =>
  names.map((name) => n.attribs[name]).find((v) => v !== undefined);
/** What a child that is text or a line's end says; `inside` speaks for the other elements. */
function said(child: ChildNode, inside: (element: Node) => string): string {
  if (child.type === "text") return child.data.replace(/\s+/g, " ");
  if (!isElement(child)) return "";
  return local(child) === "br" ? "\n" : inside(child);
}

const trimLines = (text: string) => text.replace(/ *\n */g, "\n").trim();

function words(node: { children: ChildNode[] } | undefined): string {
  return node ? trimLines(node.children.map((child) => said(child, words)).join("")) : "";
}

function questionText(body: Node, interaction: Node): string {
  const own = find(interaction.children, "prompt").map(words).join("\n");
  const around = (node: Node): string =>
    node.children
      .filter((child) => child !== interaction)
      .map((child) => said(child, block))
      .join("");
  const block = (element: Node): string => {
    if (element.attribs["data-almanac-unit"] !== undefined) return "";
    return `${around(element)}${/^(p|div|li)$/.test(local(element)) ? "\n" : ""}`;
  };
  return [trimLines(around(body)), own].filter(Boolean).join("\n");
}
const mappedMost = (declaration: Node) =>
  all(declaration)
    .filter((n) => local(n) === "map-entry")
    .map((e) => attr(e, "mapped-value", "mappedValue"))
    .sort((a, b) => Number(b) - Number(a))[0];

function choicesOf(
  nodes: readonly Node[],
  newId: () => string,
): { choices: Choice[]; ids: Map<string, string> } {
  const ids = new Map(nodes.map((n) => [n.attribs.identifier ?? "", newId()]));
  return {
    choices: nodes.map((n) => ({ id: ids.get(n.attribs.identifier ?? "")!, text: words(n) })),
    ids,
  };
}

function choiceQuestion({ interaction, declaration, key, base, newId }: Asked): Result {
  const { choices, ids } = choicesOf(find(interaction.children, "simple-choice"), newId);
  const right = key.flatMap((k) => ids.get(k) ?? []);
  if (right.length === 0) return no("it does not say which answer is right");
  if (declaration.attribs.cardinality === "single")
    return yes({ ...base, kind: "one choice", choices, right: right[0]! });
  return yes({ ...base, kind: "several choices", choices, right });
}

function orderQuestion({ interaction, key, base, newId }: Asked): Result {
  const { choices, ids } = choicesOf(find(interaction.children, "simple-choice"), newId);
  const items = key.flatMap((k) => choices.find((c) => c.id === ids.get(k)) ?? []);
  return items.length === choices.length && items.length > 1
    ? yes({ ...base, kind: "ordering", items })
    : no("it does not say the right order of all its items");
}

function matchQuestion({ interaction, key, base, newId }: Asked): Result {
  const sets = find(interaction.children, "simple-match-set").map((set) =>
    choicesOf(find(set.children, "simple-associable-choice"), newId),
  );
  const [left, right] = sets;
  if (!left || !right) return no("its two sides are missing");
  const pairs = Object.fromEntries(
    key
      .map((pair) => pair.split(/\s+/))
      .flatMap(([l, r]) =>
        left.ids.has(l ?? "") && right.ids.has(r ?? "")
          ? [[left.ids.get(l!)!, right.ids.get(r!)!]]
          : [],
      ),
  );
  if (left.choices.some((c) => !pairs[c.id])) return no("it does not give every item its partner");
  return yes({ ...base, kind: "matching", left: left.choices, right: right.choices, pairs });
}

function entryQuestion(asked: Asked): Result {
  const type = attr(asked.declaration, "base-type", "baseType");
  return type === "float" || type === "integer" ? numberQuestion(asked) : textQuestion(asked);
}

function numberQuestion({ item, key, base }: Asked): Result {
  if (!key[0]) return no("the right number is missing");
  const unit =
    all(item)
      .map((n) => n.attribs["data-almanac-unit"])
      .find((u) => u !== undefined) ?? "";
  return yes({ ...base, kind: "number", value: key[0], unit, tolerance: toleranceOf(item) });
}

function toleranceOf(item: Node): string {
  const equal = all(item).find((n) => local(n) === "equal");
  if (!equal) return "";
  const tolerance = (equal.attribs.tolerance ?? "").trim().split(/\s+/)[0] ?? "";
  const mode = attr(equal, "tolerance-mode", "toleranceMode");
  if (mode === "relative") return `${tolerance}%`;
  return mode === "absolute" ? tolerance : "";
}

const isTrue = (value: string | undefined) => value === "true" || value === "1";

function textQuestion({ interaction, declaration, key, base }: Asked): Result {
  const entries = all(declaration).filter((n) => local(n) === "map-entry");
  const mapped = entries
    .filter((e) => Number(attr(e, "mapped-value", "mappedValue")) > 0)
    .map((e) => attr(e, "map-key", "mapKey") ?? "");
  const accepted = [...new Set([...key, ...mapped])].filter(Boolean);
  if (accepted.length === 0) return no("it gives no right answer");
  // Without a mapping the template match_correct compares to the letter.
  const exactCase =
    entries.length === 0 || entries.some((e) => isTrue(attr(e, "case-sensitive", "caseSensitive")));
  return yes({
    ...base,
    kind: "short text",
    accepted,
    exactCase,
    exactAccents: isTrue(interaction.attribs["data-almanac-exact-accents"] ?? "true"),
    exactSpaces: isTrue(interaction.attribs["data-almanac-exact-spaces"]),
  });
}

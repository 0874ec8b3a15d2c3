import Big from "big.js";
import type { Question } from "../../questions/question";

/**
 * Questions as 1EdTech QTI 3.0 assessment items, one XML text each.
 *
 * The element and attribute names of the binding (qti-assessment-item, qti-response-declaration …) and its
 * response-processing templates are from memory: the specification cannot be fetched where this was written.
 *
 * What QTI has no place for, or several, stands as follows: accepted variants as a mapping; a tolerance as
 * qti-equal with tolerance-mode; a unit and the strictness of short text in attributes of a namespace of
 * ours (data-almanac-…), which other programs leave alone.
 */
export type QtiItem = { name: string; xml: string };

const XMLNS =
  'xmlns="http://www.imsglobal.org/xsd/imsqtiasi_v3p0" xmlns:xsi="http://www.w3.org/2001/XMLSchema-instance" xsi:schemaLocation="http://www.imsglobal.org/xsd/imsqtiasi_v3p0 https://purl.imsglobal.org/spec/qti/v3p0/schema/xsd/imsqti_asiv3p0_v1p0.xsd"';
const MAP_RESPONSE = "https://purl.imsglobal.org/spec/qti/v3p0/rptemplates/map_response.xml";

export function writeQtiItem(question: Question): QtiItem {
  const id = identifier(question.id);
  const { declaration, body, processing } = writers[question.kind](question as never);
  const xml = `<?xml version="1.0" encoding="UTF-8"?>
<qti-assessment-item ${XMLNS} identifier="${id}" title="${escape(question.text.slice(0, 60))}" adaptive="false" time-dependent="false" xml:lang="en">
  ${declaration}
  <qti-outcome-declaration identifier="SCORE" cardinality="single" base-type="float"${question.kind === "free text" ? ' external-scored="human"' : ""}><qti-default-value><qti-value>0</qti-value></qti-default-value></qti-outcome-declaration>
  <qti-outcome-declaration identifier="MAXSCORE" cardinality="single" base-type="float"><qti-default-value><qti-value>${number(question.points)}</qti-value></qti-default-value></qti-outcome-declaration>
  <qti-item-body>
    ${body}
  </qti-item-body>
  ${processing}
</qti-assessment-item>
`;
  return { name: `${id}.xml`, xml };
}

type Written = { declaration: string; body: string; processing: string };
type Of<K extends Question["kind"]> = Extract<Question, { kind: K }>;
const template = (address: string) => `<qti-response-processing template="${address}"/>`;
const declare = (cardinality: string, baseType: string, inner: string) =>
  `<qti-response-declaration identifier="RESPONSE" cardinality="${cardinality}" base-type="${baseType}">${inner}</qti-response-declaration>`;
const correct = (values: readonly string[]) =>
  `<qti-correct-response>${values.map((v) => `<qti-value>${escape(v)}</qti-value>`).join("")}</qti-correct-response>`;
const prompt = (text: string) => `<qti-prompt>${lines(text)}</qti-prompt>`;
const lines = (text: string) => text.split("\n").map(escape).join("<br/>");

const writers: { [K in Question["kind"]]: (question: Of<K>) => Written } = {
  "one choice": (q) => ({
    declaration: declare("single", "identifier", correct([identifier(q.right)])),
    body: choiceInteraction(q.text, q.choices, 1),
    processing: process(whenRight(q.points)),
  }),
  "several choices": (q) => ({
    declaration: declare(
      "multiple",
      "identifier",
      correct(q.right.map(identifier)) +
        // Right ones less wrong ones, never below nothing.
        mapping(
          q.points,
          q.choices.map(({ id }) => {
            const each = shareOf(q.points, q.right.length);
            return [identifier(id), q.right.includes(id) ? each : `-${each}`];
          }),
        ),
    ),
    body: choiceInteraction(q.text, q.choices, 0),
    processing: process(whenRight(q.points, setScore(MAPPED))),
  }),
  "short text": (q) => {
    const entries = q.accepted
      .map(
        (a) =>
          `<qti-map-entry map-key="${escape(a)}" mapped-value="${number(q.points)}" case-sensitive="${q.exactCase}"/>`,
      )
      .join("");
    const strict = `data-almanac-exact-accents="${q.exactAccents}" data-almanac-exact-spaces="${q.exactSpaces}"`;
    return {
      declaration: declare(
        "single",
        "string",
        `${correct(q.accepted.slice(0, 1))}<qti-mapping default-value="0">${entries}</qti-mapping>`,
      ),
      body: `<p>${lines(q.text)} <qti-text-entry-interaction response-identifier="RESPONSE" expected-length="30" ${strict}/></p>`,
      processing: template(MAP_RESPONSE),
    };
  },
  number: (q) => {
    const percent = /^(.*?)\s*%$/.exec(q.tolerance.trim());
    const mode = toleranceMode(q.tolerance.trim(), percent?.[1]);
    const unit = q.unit
      ? ` <span class="unit" data-almanac-unit="${escape(q.unit)}">(with its unit)</span>`
      : "";
    return {
      declaration: declare("single", "float", correct([number(q.value)])),
      body: `<p>${lines(q.text)} <qti-text-entry-interaction response-identifier="RESPONSE" expected-length="12"/>${unit}</p>`,
      processing: `<qti-response-processing><qti-response-condition><qti-response-if><qti-equal ${mode}><qti-variable identifier="RESPONSE"/><qti-correct identifier="RESPONSE"/></qti-equal><qti-set-outcome-value identifier="SCORE"><qti-base-value base-type="float">${number(q.points)}</qti-base-value></qti-set-outcome-value></qti-response-if></qti-response-condition></qti-response-processing>`,
    };
  },
  matching: (q) => {
    const set = (choices: readonly { id: string; text: string }[], most: number) =>
      `<qti-simple-match-set>${choices.map((c) => `<qti-simple-associable-choice identifier="${identifier(c.id)}" match-max="${most}">${escape(c.text)}</qti-simple-associable-choice>`).join("")}</qti-simple-match-set>`;
    return {
      declaration: declare(
        "multiple",
        "directedPair",
        correct(q.left.map((l) => pairOf(q, l.id))) +
          mapping(
            q.points,
            q.left.map((l) => [pairOf(q, l.id), shareOf(q.points, q.left.length)]),
          ),
      ),
      body: `<qti-match-interaction response-identifier="RESPONSE" shuffle="true" max-associations="${q.left.length}">${prompt(q.text)}${set(q.left, 1)}${set(q.right, q.left.length)}</qti-match-interaction>`,
      processing: process(whenRight(q.points, setScore(MAPPED))),
    };
  },
  ordering: (q) => ({
    declaration: declare("ordered", "identifier", correct(q.items.map((i) => identifier(i.id)))),
    body: `<qti-order-interaction response-identifier="RESPONSE" shuffle="true">${prompt(q.text)}${q.items.map((i) => `<qti-simple-choice identifier="${identifier(i.id)}">${escape(i.text)}</qti-simple-choice>`).join("")}</qti-order-interaction>`,
    processing: process(
      whenRight(q.points, placesInTurn(q.items.length, shareOf(q.points, q.items.length))),
    ),
  }),
  "free text": (q) => ({
    declaration: declare("single", "string", ""),
    body: `<qti-extended-text-interaction response-identifier="RESPONSE" expected-lines="${q.lines}">${prompt(q.text)}</qti-extended-text-interaction>`,
    processing: "",
  }),
};

/**
 * Scored as it is here, so that another program comes to the same points: all of them where the answer is the
 * key, else what is said beside it. The templates of the binding score 1 for any right answer.
 */
const process = (inner: string) => `<qti-response-processing>${inner}</qti-response-processing>`;
const setScore = (value: string) =>
  `<qti-set-outcome-value identifier="SCORE">${value}</qti-set-outcome-value>`;
const float = (value: string) =>
  `<qti-base-value base-type="float">${number(value)}</qti-base-value>`;
const MAPPED = '<qti-map-response identifier="RESPONSE"/>';
const condition = (test: string, then: string, otherwise = "") =>
  `<qti-response-condition><qti-response-if>${test}${then}</qti-response-if>${otherwise ? `<qti-response-else>${otherwise}</qti-response-else>` : ""}</qti-response-condition>`;
const whenRight = (points: string, otherwise = "") =>
  condition(
    '<qti-match><qti-variable identifier="RESPONSE"/><qti-correct identifier="RESPONSE"/></qti-match>',
    setScore(float(points)),
    otherwise,
  );

/** Each place counts singly. */
function placesInTurn(places: number, each: string): string {
  const at = (n: number, element: string) =>
    `<qti-index n="${n}"><${element} identifier="RESPONSE"/></qti-index>`;
  const more = `<qti-sum><qti-variable identifier="SCORE"/>${float(each)}</qti-sum>`;
  return Array.from({ length: places }, (_, n) =>
    condition(
      `<qti-match>${at(n + 1, "qti-variable")}${at(n + 1, "qti-correct")}</qti-match>`,
      setScore(more),
    ),
  ).join("");
}

const mapping = (points: string, entries: readonly (readonly [string, string])[]) =>
  `<qti-mapping default-value="0" lower-bound="0" upper-bound="${number(points)}">${entries.map(([key, value]) => `<qti-map-entry map-key="${key}" mapped-value="${value}"/>`).join("")}</qti-mapping>`;

/** What one of so many parts is worth; more digits than points are rounded to. */
const shareOf = (points: string, parts: number): string =>
  new Big(number(points)).div(parts).round(6).toString();

const pairOf = (q: Of<"matching">, left: string) =>
  `${identifier(left)} ${identifier(q.pairs[left]!)}`;

const choiceInteraction = (
  text: string,
  choices: readonly { id: string; text: string }[],
  most: number,
) =>
  `<qti-choice-interaction response-identifier="RESPONSE" shuffle="false" max-choices="${most}">${prompt(text)}${choices.map((c) => `<qti-simple-choice identifier="${identifier(c.id)}">${escape(c.text)}</qti-simple-choice>`).join("")}</qti-choice-interaction>`;

/** An XML name: it does not begin with a digit. */
const identifier = (id: string) => `i-${id.replace(/[^\w.-]/g, "_")}`;
const number = (text: string) => text.trim().replace(",", ".").replace("−", "-");

/** Also leaves out what XML 1.0 cannot hold. */
export function escape(text: string): string {
  return text
    .replace(/[^\t\n\r\u0020-\ud7ff\ue000-\ufffd\u{10000}-\u{10ffff}]/gu, "")
    .replace(/&/g, "&amp;")
    .replace(/</g, "&lt;")
    .replace(/>/g, "&gt;")
    .replace(/"/g, "&quot;");
}

/** The manifest of a content package that holds these items. */
export function writeManifest(name: string, items: readonly QtiItem[]): string {
  return `<?xml version="1.0" encoding="UTF-8"?>
<manifest xmlns="http://www.imsglobal.org/xsd/qti/qtiv3p0/imscp_v1p1" identifier="set">
  <metadata><schema>QTI Package</schema><schemaversion>3.0.0</schemaversion><title>${escape(name)}</title></metadata>
  <organizations/>
  <resources>
${items.map((item) => `    <resource identifier="${item.name.replace(/\.xml$/, "")}" type="imsqti_item_xmlv3p0" href="${item.name}"><file href="${item.name}"/></resource>`).join("\n")}
  </resources>
</manifest>
`;
}

function toleranceMode(tolerance: string, percent: string | undefined): string {
  if (tolerance === "") return 'tolerance-mode="exact"';
  return percent === undefined
    ? `tolerance-mode="absolute" tolerance="${number(tolerance)}"`
    : `tolerance-mode="relative" tolerance="${number(percent)}"`;
}

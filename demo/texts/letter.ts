import { anyOf, between, chance, someOf, type Random } from "../random";
import { fill, para, type Block } from "./blocks";

/** Field Writing 9: a letter from a place that changed. 300 to 900 words. */
const PLACES = [
  {
    place: "the old cannery",
    was: "it packed herring for half the coast",
    now: "the roof is open and gulls live in the sorting room",
    thing: "a rusted weighing scale",
  },
  {
    place: "the east slip",
    was: "twelve boats were pulled up here every night",
    now: "there is one dinghy with a hole in it",
    thing: "a ring in the stone worn thin by ropes",
  },
  {
    place: "the dune path",
    was: "it ran straight from the school to the beach",
    now: "it stops at a fence because the dune walked over it",
    thing: "the top of a signpost sticking out of the sand",
  },
  {
    place: "the lamp shop",
    was: "my great-aunt sold wicks and paraffin",
    now: "it is a waiting room for the ferry",
    thing: "a brass hook in the ceiling",
  },
  {
    place: "the lower meadow",
    was: "it was dry enough for hay",
    now: "the spring tides come in twice a month",
    thing: "a gatepost standing in salt water",
  },
  {
    place: "the school boiler house",
    was: "a man called Tobias shovelled coal from five in the morning",
    now: "it holds bicycles and a heat pump that hums",
    thing: "black dust in every crack",
  },
  {
    place: "the radio hut",
    was: "somebody read the weather out every six hours",
    now: "the machine on the mast does it alone",
    thing: "a chair with a dent in the cushion",
  },
  {
    place: "Kittiwake Lane",
    was: "nine families lived here all year",
    now: "seven of the houses are dark until July",
    thing: "a swing that nobody has taken down",
  },
  {
    place: "the peat cutting",
    was: "the whole island dried its fuel there",
    now: "it is a pond with dragonflies",
    thing: "a spade handle as grey as bone",
  },
  {
    place: "the ice house",
    was: "they packed lake ice in sawdust for the summer fish",
    now: "the lake has not frozen hard enough in my life",
    thing: "a pair of tongs as long as my arm",
  },
];
const OPENINGS = [
  "Dear you, whoever finds this,",
  "To the person who will stand here in fifty years:",
  "Dear Grandmother,",
  "Dear cousin in the city,",
  "To the people who built this,",
  "Dear new family on the hill,",
  "Dear me, at forty,",
  "Hello from the edge of the island.",
];
const ARRIVE = [
  "I am sitting at {place} with my notebook on my knee, and the wind keeps turning the page for me.",
  "I came to {place} on Wednesday after school, when the light was already going.",
  "You asked me what {place} is like now, so I went to look.",
  "I have walked past {place} every day of my life and never really looked until this week.",
  "It takes eleven minutes to walk to {place} if you don’t stop, and I always stop.",
  "There is a lot to say about {place}, and most of it you can’t see at first.",
  "When I got to {place} nobody was there, only a dog I don’t know.",
];
const BEFORE = [
  "My grandfather says that {was}, and he says it as if it was last week.",
  "Everybody older than sixty will tell you that {was}.",
  "In the photograph in the hall you can see that {was}.",
  "I didn’t believe it, but the logbook in the museum shows that {was}.",
  "People remember that {was}, but they don’t agree about when it ended.",
  "Once, {was}; that is the sentence everyone here begins with.",
];
const NOW = [
  "Today {now}.",
  "Now {now}, and it is very quiet.",
  "If you come today, {now}.",
  "What I found is that {now}, which surprised me less than I thought.",
  "But {now}. I think nobody decided it, it just happened.",
  "And now {now}, as if the other time had never been.",
];
const SEE = [
  "The first thing I noticed was {thing}.",
  "Near the door there is {thing}, and I put my hand on it.",
  "I drew {thing} three times because I could not get it right.",
  "Nobody has touched {thing} for years, you can tell by the moss.",
  "If you only have a minute, look for {thing}.",
];
const SENSES = [
  "It smells of kelp and old rope, and a bit of diesel when the ferry is in.",
  "The wind makes a noise in the pipes like somebody about to speak.",
  "My hands were so cold that the pencil felt like part of them.",
  "You can hear the tide before you see it.",
  "There was a taste of salt on my lips the whole time.",
  "The light came in through the holes in stripes, and dust moved in it like small fish.",
  "The stones are warm on one side and wet on the other.",
  "A wren was shouting from somewhere in the wall.",
  "Everything is very grey, but when you look longer there are many greys.",
  "It was so quiet that I heard my own jacket.",
  "The ground gives a little when you step on it, like bread.",
  "Things lie around there that nobody wants.",
];
const PEOPLE = [
  "I asked Mr Tobiassen at the shop and he put down the boxes to answer, which he never does.",
  "My mother was eleven when it changed, and she only remembers the noise.",
  "The ferry captain told me that he still steers by it.",
  "An old woman was there with a thermos, and she said that the winters used to be loud.",
  "My uncle says it was the price of fuel, my aunt says it was the road.",
  "The museum has four photographs and no names.",
  "When I asked in class, half of us had a story about it and no two were the same.",
  "I asked three people why, and I received three different answers.",
  "One of the men who worked there lives two doors from us and I never knew.",
];
const NUMBERS = [
  "I counted 14 windows and 3 of them have glass.",
  "The wall is 62 steps long, and I have short steps.",
  "In the register it says 1958 for the last entry.",
  "We measured the water line and it is 40 higher than the mark from when my father was born.",
  "There used to be 210 people on this side and now there are about 90.",
  "The sand moved 6 metres in ten years, it says on the board.",
  "It takes 25 minutes for the tide to cover the first stone.",
];
const THINK = [
  "I think a place changes first in what people do there and only later in how it looks.",
  "It is strange to miss something I have never seen.",
  "Maybe what I want to say is that nobody wrote it down because nobody thought it would stop.",
  "I used to think change is like a storm, but it is more like the tide.",
  "It made me sad, and then it made me curious, and I think curious is better.",
  "I don’t think it was better before, it was harder, and people were tired.",
  "What surprised me is how fast things grow when people leave.",
  "If a place could talk it would probably ask what took us so long.",
  "It is different when you know who stood there.",
  "Because of the weather station we know the rain of every day, but not what people said.",
  "Somebody should have asked the old people sooner.",
  "I am not sure if I would bring it back, even if I could.",
];
const FUTURE = [
  "When you read this, please go and look whether {thing} is still there.",
  "I hope that in your time somebody uses the place again, even if it is for something silly.",
  "Perhaps you will build something here; please leave one wall.",
  "By then the sea will be higher, and you may need a boat to stand where I stand.",
  "I will come back every spring and write down what is new, that is a promise.",
  "Tell me what you see, and I will keep both letters together.",
];
const CLOSING = [
  "With cold hands,",
  "Yours, from the wet end of the island,",
  "Write back, if paper still exists.",
  "Until the next tide,",
  "Your friend in the wind,",
  "With greetings from a very small place,",
];

export function writeLetter(random: Random, called: string, size: number): Block[] {
  const scene = anyOf(random, PLACES);
  const slots = Object.fromEntries(Object.entries(scene).map(([key, value]) => [key, [value]]));
  const pick = (list: readonly string[], count = 1) =>
    someOf(random, list, Math.min(count, list.length)).map((s) => fill(random, s, slots));
  const grow = (least: number, most: number) => Math.round(least + (most - least) * size);
  const paragraphs = [
    para(...pick(ARRIVE), ...pick(SEE), ...pick(SENSES, grow(1, 3))),
    para(...pick(BEFORE), ...pick(PEOPLE, grow(1, 3)), ...pick(NUMBERS, grow(1, 2))),
    para(...pick(NOW, grow(1, 2)), ...pick(SENSES, grow(1, 4)), ...pick(NUMBERS, grow(0, 2))),
    ...(size > 0.35 ? [para(...pick(PEOPLE, grow(2, 4)), ...pick(THINK, grow(1, 3)))] : []),
    ...(size > 0.65
      ? [
          para(...pick(SEE), ...pick(SENSES, 3), ...pick(THINK, 3)),
          para(...pick(PEOPLE, 3), ...pick(NUMBERS, 2), ...pick(THINK, 2)),
        ]
      : []),
    ...(size > 0.8
      ? [
          para(...pick(SENSES, 4), ...pick(BEFORE), ...pick(NUMBERS, 2), ...pick(THINK, 3)),
          para(...pick(PEOPLE, 3), ...pick(NOW), ...pick(SENSES, 3), ...pick(THINK, 3)),
        ]
      : []),
    para(...pick(THINK, grow(2, 4)), ...pick(FUTURE, grow(1, 2))),
  ];
  const seen = new Set<string>();
  const unrepeated = paragraphs.map((p) =>
    p.kind === "paragraph"
      ? para(...sentences(p.text).filter((s) => !seen.has(s) && seen.add(s)))
      : p,
  );
  return [
    { kind: "paragraph", text: anyOf(random, OPENINGS) },
    ...unrepeated,
    { kind: "paragraph", text: `${anyOf(random, CLOSING)} ${called}` },
  ];
}

const sentences = (text: string) => text.split(/(?<=[.!?])\s+/);

/** A sentence or two that a student adds when asked for more. */
export function addition(random: Random): string {
  const more = [
    `I went back on Saturday to check, and it was ${between(random, 6, 19)} steps, not what I wrote first.`,
    "I asked again and she told me the name of the boat: it was the Marit.",
    "What I mean is that the sound stopped, and that was how people knew.",
    "To show what I mean: the handle is worn on one side only, where a thumb was.",
    "It was the cold that I noticed most, in my teeth when I breathed in.",
    "He pointed at the wall and said that is where the water stood that night.",
    "The word I was looking for is hollow.",
  ];
  return anyOf(random, chance(random, 0.5) ? more.slice(0, 4) : more);
}

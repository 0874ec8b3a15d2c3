import { anyOf, between, chance, someOf, type Random } from "../random";
import { fill, para, type Block } from "./blocks";

/** The shorter pieces of Earth & Sky and Tides & Numbers. */
const days = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];
const spots = [
  "behind the bicycle shed",
  "on the flat roof",
  "by the weather mast",
  "next to the boat store",
  "at the end of the playing field",
  "between the two wind breaks",
  "on the ferry pier",
  "in our garden",
];

export function rainfallLog(random: Random): Block[] {
  const amounts = days.map(() =>
    chance(random, 0.3) ? 0 : between(random, 1, 24) + between(random, 0, 9) / 10,
  );
  const total = amounts.reduce((a, b) => a + b, 0);
  const wettest = days[amounts.indexOf(Math.max(...amounts))]!;
  const spot = anyOf(random, spots);
  const why = someOf(
    random,
    [
      `The wind on ${anyOf(random, days)} was so strong that the rain came sideways, so our gauge probably caught too little.`,
      "A leaf was lying on the funnel and we don’t know since when.",
      "Somebody moved the gauge a bit because of the football, we moved it back.",
      "We read it at eight every morning except once, when it was nearly nine.",
      "Water sticks to the glass, so you have to read the bottom of the curve.",
      "On the weekend my mother read it, and she wrote it on the fridge.",
      "The gauge stood in the shelter of the wall, which I think matters more than people say.",
      "One day there was fog that made everything wet, but the gauge said nothing.",
      "We emptied it into the bucket first and then remembered to read it.",
    ],
    between(random, 2, 4),
  );
  const judge = someOf(
    random,
    [
      "I think our numbers are a bit low.",
      "Compared with the weather mast we were " +
        between(random, 1, 6) +
        " below on the wettest day.",
      "The mast and our gauge agree on which days were dry, but not on how wet the wet ones were.",
      "If we did it again I would put the gauge away from the wall.",
      "It is very hard to read half a millimetre when your fingers are cold.",
      "A week is too short to say if this autumn is wet.",
      "The graph looks like teeth.",
      "You can see two fronts coming through, one at the beginning of the week and one at the end.",
      "I was surprised that a whole wet afternoon is only a few millimetres.",
    ],
    between(random, 2, 4),
  );
  return [
    {
      kind: "heading",
      text: anyOf(random, [
        "Our rain, seven days",
        "What the gauge says",
        "Rain log",
        "A week of rain",
      ]),
    },
    para(
      `Our gauge stood ${spot}.`,
      anyOf(random, [
        "We measured every morning before the first lesson.",
        "I took turns with my partner, who is better at getting up.",
        "We used the big funnel and the narrow glass, so one millimetre is easy to see.",
      ]),
    ),
    {
      kind: "table",
      rows: [
        ["day", "rain"],
        ...days.map((day, n) => [
          day.slice(0, 3),
          amounts[n] === 0
            ? anyOf(random, ["0", "dry", "–"])
            : `${amounts[n]}${chance(random, 0.6) ? " mm" : ""}`,
        ]),
      ],
    },
    para(
      `In the whole week we received ${total.toFixed(1)}${chance(random, 0.6) ? " mm" : ""}, and the wettest day was ${wettest}.`,
      ...why,
    ),
    para(...judge),
  ];
}

export function cloudWatch(random: Random): Block[] {
  const kinds = someOf(
    random,
    [
      ["cumulus", "flat underneath and heaped on top, like something spilled upwards"],
      ["stratus", "one grey sheet without any edge"],
      ["cirrus", "thin hooks very high up"],
      ["nimbostratus", "dark, low and already raining on the sea"],
      ["altocumulus", "rows of small lumps like sheep that were told to line up"],
      ["stratocumulus", "long rolls with light between them"],
      ["cumulonimbus", "a tower with a flat top, far away over the mainland"],
    ],
    3,
  );
  const times = someOf(
    random,
    [
      "at 7:50 before school",
      "in the long break",
      "at noon",
      "after the last lesson",
      "at about 5",
      "when the street lamp came on",
    ],
    3,
  );
  const direction = ["west", "south-west", "north", "north-west", "south"];
  return [
    para(
      anyOf(random, [
        "I watched the same piece of sky three times, over the roof of the gym.",
        "My piece of sky is the one between the mast and the church.",
        "From my window I see the sky over the harbour, so I took that.",
      ]),
    ),
    para(
      ...someOf(
        random,
        [
          "I wrote down the time, the direction and how much of the sky was covered.",
          "To find the direction I watched the edge of a cloud pass the top of the mast.",
          "My partner watched another piece, and we compared afterwards.",
          "I held my hand at arm’s length: if the lumps are bigger than my thumb it is not altocumulus.",
          "The book has pictures of all of them, but the real ones are never like the pictures.",
          "It was windy and hard to keep the paper still.",
        ],
        3,
      ),
    ),
    ...kinds.map(([name, look], n) =>
      para(
        fill(
          random,
          anyOf(random, [
            `${cap(times[n]!)} it was ${name}: ${look}.`,
            `${cap(times[n]!)} I wrote down ${name}, because it was ${look}.`,
            `${cap(times[n]!)} there was ${name}. It was ${look}.`,
          ]),
          {},
        ),
        anyOf(random, [
          `It came from the ${anyOf(random, direction)}.`,
          `The wind on the ground came from the ${anyOf(random, direction)}, but the clouds moved the other way.`,
          "It hardly moved.",
          `It covered about ${between(random, 1, 8)} of the sky.`,
          "I could see blue in two places.",
        ]),
        anyOf(random, [
          "The temperature was lower than it looked.",
          "It was definitely darker than on my drawing.",
          "A gull flew under it, so it can’t have been that low.",
          "I think it will rain.",
          "My brother said it looks like a duck, it does not.",
          "It smelled of rain already.",
          "",
          "",
        ]),
      ),
    ),
    para(
      anyOf(random, [
        "I think the weather changed because a front came.",
        "Altogether the clouds got lower and thicker, which is what you expect before rain.",
        "The clouds separated in the evening and it got colder.",
      ]),
      anyOf(random, [
        `It rained at ${between(random, 6, 11)} in the evening.`,
        "It did not rain, so I was wrong.",
        "In the night I heard the rain, so the stratus was right.",
        "I don’t know yet what it means for tomorrow.",
      ]),
      anyOf(random, [
        "Next time I would take a photograph every ten minutes.",
        "Drawing clouds is hard because they don’t wait.",
        "I really like altocumulus now.",
      ]),
    ),
  ];
}

export function evaporation(random: Random): Block[] {
  const dishes = someOf(
    random,
    [
      "a wide plate",
      "a jam jar",
      "a tall measuring glass",
      "a plate under the fan",
      "a plate on the radiator",
      "a jar with a lid of cling film",
      "a bowl in the fridge",
    ],
    3,
  );
  const lost = dishes.map(() => between(random, 4, 46)).sort((a, b) => b - a);
  return [
    { kind: "heading", text: "Question" },
    para(
      anyOf(random, [
        "Which dish dries first, and why?",
        "Does the shape of the dish change how fast water evaporates?",
        "What makes water go away faster: wind, heat or a wide dish?",
      ]),
    ),
    { kind: "heading", text: "What we did" },
    para(
      `We put 50 ml of water into ${dishes[0]}, ${dishes[1]} and ${dishes[2]}.`,
      anyOf(random, [
        "They stood on the window sill for two days.",
        "We weighed them at the beginning and after 24 hours.",
        "We looked at them every lesson, but on Wednesday there was no lesson.",
      ]),
      anyOf(random, [
        "The scale shows grams, and one gram of water is one millilitre.",
        "Everyone had to keep away from the table.",
        "We could have used more dishes but there was no room.",
        "The weather was wet, so the air in the room was damp.",
      ]),
    ),
    { kind: "heading", text: "What we saw" },
    {
      kind: "table",
      rows: [
        ["dish", "water lost"],
        ...dishes.map((dish, n) => [dish, `${lost[n]}${chance(random, 0.55) ? " ml" : ""}`]),
      ],
    },
    para(
      `Most water evaporated from ${dishes[0]}, that was ${lost[0]}${chance(random, 0.5) ? " ml" : ""}.`,
      `From ${dishes[2]} it was only ${lost[2]}.`,
      anyOf(random, [
        "The water left a white ring.",
        "We were surprised because we thought it would be the other one.",
        "The numbers are very different.",
        "Nothing happened for the first hours, or we could not see it.",
      ]),
    ),
    { kind: "heading", text: "What it means" },
    para(
      ...someOf(
        random,
        [
          "I think more surface means more places where water can leave.",
          "Wind takes the damp air away, so there is room for new.",
          "Warm water has faster particles, and the fast ones escape.",
          "It is like washing on the line: spread out it dries, in a heap it does not.",
          "This is why puddles go away although it is cold.",
          "The cling film shows that the water has to go somewhere.",
          "Evaporating cools things, that is why you get cold when you come out of the sea.",
          "We can’t be sure because we changed two things at the same time.",
        ],
        between(random, 2, 4),
      ),
    ),
    para(
      ...someOf(
        random,
        [
          "A mistake could be that somebody breathed on it.",
          "Next time we should use the same amount of water in every dish, I think one had less.",
          "If we measured every hour we could draw a curve.",
          "I would like to know what happens with salt water.",
          "We should separate the effect of the wind from the effect of the heat.",
          "The scale only shows whole grams.",
        ],
        between(random, 1, 3),
      ),
    ),
  ];
}

export function tideSheet(random: Random): Block[] {
  const clock = () =>
    `${between(random, 0, 23)}:${String(between(random, 0, 59)).padStart(2, "0")}`;
  const unit = () => (chance(random, 0.7) ? " m" : "");
  const height = () => `${between(random, 0, 1)}.${between(random, 10, 95)}${unit()}`;
  return [
    { kind: "item", text: `High water in the morning: ${clock()}, ${height()}` },
    { kind: "item", text: `Low water after that: ${clock()}, ${height()}` },
    { kind: "item", text: `Range of that tide: ${height()}` },
    {
      kind: "item",
      text: `Time from high to low: ${between(random, 5, 6)} h ${between(random, 2, 58)} min`,
    },
    para(
      anyOf(random, [
        "To find the range I took the high minus the low.",
        "The range is the difference between the two heights.",
        "I measured the range on the graph and then checked with the table.",
      ]),
      anyOf(random, [
        "The sandbar is dry when the tide is under 0.6 so you can cross about one hour before and after low water.",
        `You can cross the sandbar until ${clock()}, after that your feet get wet.`,
        "The crossing is safe around low water, but I would not go at the end of it.",
      ]),
    ),
    para(
      ...someOf(
        random,
        [
          "The times are in standard time, so in summer you have to add one hour.",
          "The next day everything is about 50 minutes later.",
          "It was hard to find the right column because there are two months on one page.",
          "At spring tide the high is higher and the low is lower.",
          "My father says the wind can make it 20 more.",
          "I checked it at the harbour steps and it was nearly right.",
          "The table is for the harbour, at the lighthouse it is earlier.",
          "I don’t know why some days have only three tides.",
          "Because the moon was full two days before, this should be nearly a spring tide.",
          "The heights are measured from a fixed mark, not from the bottom.",
          "If I had to cross with my little sister I would leave half an hour more.",
        ],
        between(random, 5, 8),
      ),
    ),
  ];
}

export function tideEssay(random: Random): Block[] {
  const reasons = [
    [
      "The earth turns once in 24 hours, but in that time the moon has moved on along its path.",
      "So the place where you stand has to turn a bit further until the moon is above it again.",
      `That takes about ${anyOf(random, ["50 minutes", "50", "fifty minutes", "three quarters of an hour"])} every day.`,
    ],
    [
      "The moon pulls the water towards itself, and on the other side of the earth there is a second bulge.",
      "That is why there are two high waters in a day and not one.",
      "People think the water runs around the earth, but really the earth turns under the water.",
    ],
    [
      "If the moon stood still, high water would always be at the same time.",
      "It doesn’t stand still, it goes around us in about a month.",
      "I made a model with a lamp and an orange, and you can see it at once.",
    ],
  ];
  const local = someOf(
    random,
    [
      "At our harbour the tide also has to come around the island, which makes it later than on the open side.",
      "In the table for this month you can see the times walk through the day.",
      "My grandfather knew it without a table, he just added an hour and took a bit off.",
      "The ferry can’t always leave at the same time because of this.",
      "On Wednesday high water was before school and a week later it was in the afternoon.",
      "When wind and tide work against each other the sea gets steep.",
      "The weather can change the height but hardly the time.",
    ],
    between(random, 2, 4),
  );
  const close = someOf(
    random,
    [
      "So the tide is not late, it is on the moon’s clock and we are on the sun’s.",
      "I think the word late is wrong because nobody promised.",
      "What I still don’t understand is why it is not exactly the same every day.",
      "I was surprised that such a big thing can be worked out with one division.",
      "To be sure I would need the times of a whole month.",
      "This is the reason you can’t learn the tides like a bus plan.",
    ],
    between(random, 1, 3),
  );
  return [
    para(
      anyOf(random, [
        "Every day the tide comes later, and everybody here knows it, but not why.",
        "If you want to cross the sandbar at the same time every day you will get wet.",
        "The question is why high water is later each day.",
        "I will explain why the tide is late each day, with the moon.",
      ]),
    ),
    ...someOf(random, reasons, between(random, 2, 3)).map((r) => para(...r)),
    para(...local),
    para(...close),
  ];
}

export function forecastScript(random: Random): Block[] {
  const areas = [
    "Sound of Terns",
    "Outer Skerries",
    "Cannery Reach",
    "Lighthouse Bank",
    "Ferry Roads",
  ];
  const wind = [
    "westerly four or five",
    "south-westerly five to seven",
    "northerly three",
    "variable three or less",
    "easterly backing northerly four",
  ];
  return [
    para(
      `Good evening. Here is the forecast for the waters around the island, for the next twenty-four hours.`,
    ),
    ...someOf(random, areas, between(random, 4, 5)).map((area) =>
      para(
        `${area}: ${anyOf(random, wind)}${chance(random, 0.4) ? ", perhaps gale eight later" : ""}. ${anyOf(random, ["Rain at times.", "Showers.", "Fair.", "Drizzle and fog patches.", "Thundery rain."])} ${anyOf(random, ["Good.", "Moderate, sometimes poor.", "Good, becoming moderate.", "Very poor."])}`,
      ),
    ),
    para(
      ...someOf(
        random,
        [
          "Inshore, the tide sets north until midnight and then turns.",
          "Small boats should stay behind the skerries after dark.",
          "The weather mast reports that the pressure has fallen by six in three hours.",
          "There is still a log adrift near the pier, painted white so that you can see it.",
          "Visibility at the lighthouse was good at six, and moderate at seven.",
          "Yesterday’s warning for the Outer Skerries is withdrawn.",
          "Sea state slight, increasing moderate in the west.",
          "The temperature of the water at the pier is nine degrees.",
          "Ice is not expected anywhere in the area.",
        ],
        between(random, 4, 6),
      ),
    ),
    para(
      anyOf(random, [
        "High water tomorrow is at breakfast time, so watch your boots on the slip.",
        "The glass is falling slowly.",
        "Mind the swell at the harbour mouth.",
        "The ferry will run, but it will be bumpy.",
      ]),
      anyOf(random, [
        "Good night, and tie everything down.",
        "That is all until the morning. Sleep well.",
        "Good night to everyone at sea and everyone waiting.",
      ]),
    ),
  ];
}

export function moonPlan(random: Random): Block[] {
  return [
    para(
      anyOf(random, [
        "Our poster shows the moon on the eight days when it looks most different.",
        "We want to show why the moon has phases without using the word shadow, because the shadow is not the reason.",
        "The poster is a clock with moons instead of numbers.",
      ]),
      anyOf(random, [
        "In the middle is the earth, and the sun is a lamp on the left.",
        "Every moon is half lit, also the ones that look empty from here.",
        "We will cut out the moons so that you can turn them.",
      ]),
    ),
    ...someOf(
      random,
      [
        "New moon: we look at the side that is dark.",
        "First quarter: it is half, and you see it in the afternoon.",
        "Full moon: it rises when the sun sets, definitely not by chance.",
        "Last quarter: you see it on the way to school.",
        "Waxing means it grows, waning means it shrinks.",
        "A crescent is less than half, gibbous is more.",
      ],
      between(random, 4, 6),
    ).map((text): Block => ({ kind: "item", text })),
    para(
      ...someOf(
        random,
        [
          "We took the dates from the almanac in the hall, and checked two of them by looking.",
          "The moon goes round us in about 27 days, but from new moon to new moon it is 29 and a half, because the earth moves too.",
          "For the sentence for small children we took: the moon is always half bright, you just don’t always see that half.",
          "At the edge we will draw the tide for each phase, because here everybody wants to know that.",
          "The lamp must be far away, otherwise the shadow looks wrong.",
          "Our first idea was a comic, but there was too much text.",
        ],
        between(random, 3, 4),
      ),
    ),
    para(
      anyOf(random, [
        "I will do the drawings and the titles.",
        "My part is the text and the spring tides.",
        "I am responsible for the model in the middle.",
      ]),
      anyOf(random, [
        "We still need black paper.",
        "It is a lot of cutting.",
        "The hard part is to explain it so that a small child gets it.",
        "The temperature on the moon is not important but I would like to put it in.",
      ]),
    ),
  ];
}

const cap = (text: string) => text[0]!.toUpperCase() + text.slice(1);

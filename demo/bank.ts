/** Odalys Brandt's comment bank: shorthand | request or remark | text. The first nine are her favourites. */
const LINES = `
ev | ? | What in your notes tells you this, {name}?
unit | ? | Which unit is this in? A number alone does not say.
show | ? | Show me this instead of telling me: what would I see, hear or smell?
who | ? | Who says so? Name the person or the table it comes from.
aloud | ? | Read this sentence aloud, {name}. Where do you run out of breath?
good | . | This is just right. Keep it.
vague | ? | “Thing” could be anything. Name it.
why | ? | You say what. Now say why.
order | ? | Would this be clearer if it came earlier?
very | ? | Cross out “very” and see whether the sentence misses it.
real | ? | “Really” is doing no work here. Which word would?
i1 | . | A good first sentence: I want to read on.
i2 | ? | Your first sentence could begin any letter. What is only true of this place?
end | . | You stop at the right moment.
end2 | ? | This ends as if the bell rang. What do you want me to be left with?
q1 | . | A good question, and you don’t pretend to know the answer.
smell | . | I can smell this.
sound | . | The sound does more here than three adjectives would.
hand | . | Your hand on the stone tells me more than the date does.
num | . | Counting was a good idea: now I believe you.
num2 | ? | Count it, please. “Some” is not a number.
when | ? | When was this? A year or a season would help.
where | ? | Where did you stand when you saw this?
said | ? | What did she say, in her words?
said2 | . | Her own words. Very well kept.
two | ? | These are two sentences. Where does the second begin?
join | ? | These two belong together. What is the word between them?
tense | ? | You begin in the past and end in the present. Choose one.
rep | ? | You have this word three times in four lines.
cut | ? | What happens if you cut this sentence?
long | ? | A long sentence can be good, but here I lose who is doing what.
short | . | Short, and it hits.
para | ? | New thought, new paragraph?
head | ? | Give this part a heading, so that I can find it again.
tab | ? | Put the unit in the head of the column, once.
tab2 | . | A clear table.
axis | ? | What stands on the axes?
scale | ? | Start the axis at nought, or say that you don’t.
mean | ? | Is this the mean of all days or of the wet ones?
sum | ? | Add the column again: I get something else.
sum2 | . | The sum is right.
round | ? | You measured to half a millimetre. Don’t give me two places.
err | ? | How sure are you of this figure?
err2 | . | Good: you say how sure you are.
fair | ? | Was everything else the same? If not, it was not a fair test.
fair2 | . | You noticed that two things changed at once. That is the main thing.
cause | ? | Does this follow, or did both just happen on the same day?
model | . | The lamp and the orange is a good model.
bulge | ? | Where is the second bulge in your explanation?
range | ? | The range is a difference. Which two heights?
time | ? | Standard time or summer time?
datum | ? | A height above what?
hw | ? | Give the time and the height, both.
safe | ? | Would you cross by this answer?
fifty | . | Fifty minutes, and you say where they come from.
front | ? | Which front is it, and how do you know?
cloud | ? | Which family does this cloud belong to? Look at the height first.
cloud2 | . | Rightly named, and rightly seen.
eighths | ? | How much of the sky, in eighths?
dir | ? | Wind is named by where it comes from. Is this?
beau | ? | Which force would that be on the Beaufort scale?
mast | ? | Compare with the weather mast for the same hours.
gauge | ? | How far was the gauge from the wall?
same | ? | Did you read it at the same time every day?
dry | . | “Dry” is a reading too. Good that it is in the table.
trace | ? | Was it nothing, or less than you could read?
q50 | ? | Did every dish have the same amount?
surf | ? | Say it with the word surface.
part | ? | What do the particles do?
salt | . | The salt water question is worth trying. Come and ask me for a dish.
label | ? | Label it, so that somebody else could read it without you.
key | ? | It needs a key.
small | ? | Would a ten-year-old understand this line? Try it on one.
half | . | “Half lit, also the ones that look empty”: exactly.
shadow | ? | It is not the earth’s shadow. What is it?
wax | ? | Waxing or waning? Check the side.
title | ? | Does the title say what it is about?
thanks | . | Thank you for handing this in early, {name}.
late | . | It came late, and it was worth the wait.
better | . | Much clearer than the last round.
almost | ? | Almost. One more look at this line.
again | ? | I asked for this last time, {name}. Please do it now, or tell me why not.
settle | . | Settled. Well done.
see | ? | Come and see me about this; it is quicker in words.
spell | ? | Check the spelling of this word and of the others like it.
apo | ? | Apostrophe?
comma | ? | Read it with and without the comma. Which do you mean?
cap | ? | Names have a capital letter.
their | ? | Their, there or they’re?
its | ? | Its or it’s?
alot | ? | Two words.
were | ? | We was, or we were?
of | ? | “Could of” is how it sounds. How is it written?
quote | ? | Who is speaking? Put marks round their words.
word | . | What a good word.
word2 | ? | Is this your word? Use one you would say.
brave | . | That took courage to write.
funny | . | You made me laugh out loud in the staff room.
true | . | True, and not easy to say.
notsure | ? | “I think” is fine when you do. Are you guessing or reasoning?
maybe | ? | Maybe, or surely? Decide, and give me the reason.
both | . | You give both sides. That is rare.
other | ? | What would somebody say who does not agree?
detail | ? | One detail, please: the smallest you can remember.
more | ? | More of this, {name}. It is the best part.
less | ? | Less of this. I have understood.
letter | ? | Who is this letter to? I should be able to tell from this line.
you | . | You talk to the reader. It works.
we | ? | Who is “we”?
it | ? | What is “it” here?
this | ? | “This” what?
they | ? | Who are they?
some | ? | “Some people” is a fog. Which people?
always | ? | Always? Every time?
never | ? | Never? Not once?
first | . | First things first. Good order.
map | ? | A small map would save you a paragraph.
photo | ? | Put the photograph next to the line it belongs to.
draw | . | The drawing is worth the time it took.
date | ? | Date your entry.
page | . | A page I would keep.
neat | . | Neat, and I can find everything.
ink | ? | Not in pencil, please: it has to last the winter.
source | ? | Where is this from? Title and page, or the person’s name.
own | ? | In your own words, please.
copy | ? | This sounds like the book. What do you say?
link | ? | How does this follow from the line before?
because | . | You say why. Good.
result | ? | This is a result, not a conclusion. What does it mean?
concl | ? | Answer the question you asked at the top.
concl2 | . | You answer the question you asked.
method | ? | Could I do it again from this description? What is missing?
step | ? | One step is missing between these two.
check | . | You checked it at the steps. That is what I hoped for.
guess | . | You said it was a guess. Honest, and useful.
range2 | . | High minus low. Right.
pace | ? | Your forecast is sixty seconds. Read it with a watch.
voice | . | I can hear you reading this.
calm | ? | Say the gale as calmly as the calm.
areas | ? | The areas go round the island in order. Which comes first?
vis | ? | Visibility is missing.
sea | ? | Sea state is missing.
good2 | . | Clear, exact, and not a word too many.
keep | . | Keep this sentence whatever else you change.
move | ? | Try moving this to the very beginning.
last | . | The last line stays with me.
cold | . | I shivered.
name | ? | Give it its name. Somebody will know it.
year | ? | Which year? Your uncle may remember.
step2 | . | Steps are a fair unit when you say how long yours are.
old | ? | Old, or worn? They are not the same.
nice | ? | “Nice” tells me about you, not about the place.
big | ? | How big? Compare it with something.
few | ? | How many is a few?
often | ? | How often?
near | ? | How near, in steps or metres?
soon | ? | How soon?
colour | ? | Which grey? You said yourself that there are many.
light | . | The light in stripes: I see it.
wind | ? | Let me feel the wind; don’t tell me that there is one.
water | ? | What is the water doing?
hands | . | You put a person’s hands in the picture. Good.
thumb | . | A thumb-worn handle. That is the whole story.
quiet | ? | Quiet how? What could you still hear?
time2 | ? | What time of day is it?
season | ? | Which season is it?
people | ? | Let one person stand for all of them.
thread | ? | You have two threads. Which is the rope?
twist | . | I did not expect this, and I believe it.
slow | . | You took your time here. It shows.
fast | ? | This goes too fast. Stay a moment longer.
weigh | ? | Which matters more? Give it more lines.
bal | . | Well balanced.
nota | ? | Write this in the notebook, too.
lab | ? | Wash the dish before the second run.
eye | ? | Eye level with the water when you read it.
para2 | . | This paragraph does its work.
bridge | ? | It needs a bridge from the paragraph before.
verb | ? | Find a stronger verb.
noun | ? | Let the noun do it without the adjective.
adj | ? | Three adjectives. Keep one.
simile | . | A comparison from your own life. Good.
simile2 | ? | Everybody says this. What does it look like to you?
passive | ? | Who did it?
neg | ? | Say what it is, not what it is not.
ask | . | Thank you for asking them.
ask2 | ? | Ask one more person, and write down what does not fit.
mist | . | You found your own mistake. That counts for more than having none.
start | ? | Start where it gets interesting: here.
lab2 | . | A result you did not want, and you reported it. That is science.
zero | ? | Nought is a number; an empty cell is not.
sig | ? | Is the difference bigger than your measuring error?
conv | ? | Centimetres or metres? Make them all the same.
diff | ? | Subtract again.
trend | ? | What happens over the whole week?
peak | ? | Which day is the peak, and why that one?
gap | ? | What happened on the missing day?
guess2 | ? | What did you expect beforehand?
repeat | ? | Would it come out the same if you did it again?
tidy | . | Tidy work.
share | . | May I read this to the class, {name}?
unit2 | ? | Is this in {millimetres|centimetres|metres}? Write it beside the number.
look | ? | Look again at {…}, {name}: what is missing?
choose | ? | This is {a reason|an example|a result}, and you call it {…}.
until | . | For “{title}” you have until {due}. Come earlier if you are stuck.
`;

/** What is said with a full stop is praise, but for these. */
const PLAIN = new Set(["salt", "share", "thanks", "late", "settle", "until"]);

const FOLDERS: Readonly<Record<string, string>> = {
  "Evidence and reasons":
    "ev who why num num2 said said2 cause guess2 notsure maybe both other always never source own copy link because guess err err2 sig mist check q1 choose",
  "Letters/Openings and endings": "i1 i2 end end2 start last move title letter you keep",
  "Letters/Showing":
    "show smell sound hand vague very real when where detail more less big few often near soon colour light wind water hands thumb quiet time2 season people cold old nice year name simile simile2 page brave funny true",
  "Letters/Sentences":
    "aloud two join tense rep cut long short para para2 bridge verb noun adj passive neg word word2 order it this they we some thread twist slow fast weigh bal good good2",
  "Spelling and signs": "spell apo comma cap their its alot were of quote",
  "Measuring/Units and tables":
    "unit unit2 tab tab2 axis scale mean sum sum2 round conv diff trend peak gap zero key label range range2 time datum hw tidy",
  "Measuring/Experiments":
    "fair fair2 repeat method step step2 result concl concl2 q50 surf part salt gauge same dry trace lab lab2 eye model bulge",
  "Sky and sea":
    "front cloud cloud2 eighths dir beau mast shadow wax half small fifty safe pace calm areas vis sea voice",
};
const TAGS: Readonly<Record<string, string[]>> = {
  ev: ["first look"],
  unit: ["first look", "numbers"],
  show: ["first look"],
  num2: ["numbers"],
  round: ["numbers"],
  err: ["numbers"],
  aloud: ["read aloud"],
  good: ["warm"],
  better: ["warm"],
  keep: ["warm"],
  mist: ["warm"],
};
const CRITERIA: Readonly<Record<string, string>> = {
  show: "The place",
  smell: "The place",
  detail: "The place",
  season: "The change",
  year: "The change",
  said: "A voice",
  said2: "A voice",
  quote: "A voice",
  aloud: "Sentences",
  two: "Sentences",
  long: "Sentences",
  method: "Could be done again",
  repeat: "Could be done again",
  unit: "What was seen",
  tab: "What was seen",
  err: "What was seen",
  result: "What it means",
  concl: "What it means",
  cause: "What it means",
};
/** Comments that are put on as an edit or a stamp. */
const MARKS: Readonly<Record<string, { kind: "replace" | "star" | "tick"; replacement: string }>> =
  {
    alot: { kind: "replace", replacement: "a lot" },
    of: { kind: "replace", replacement: "have" },
    word: { kind: "star", replacement: "" },
    sum2: { kind: "tick", replacement: "" },
  };

/** What is shared: the sky with those who teach the course, spelling with the school. */
export const SHARED: Readonly<Record<string, "course" | "school">> = {
  "Sky and sea": "course",
  "Spelling and signs": "school",
};

export const BANK = LINES.trim()
  .split("\n")
  .map((line, n) => {
    const [shorthand, sign, text] = line.split(" | ") as [string, string, string];
    const nature =
      sign === "?"
        ? ("request" as const)
        : PLAIN.has(shorthand)
          ? ("remark" as const)
          : ("praise" as const);
    const { kind, replacement } = MARKS[shorthand] ?? { kind: "note" as const, replacement: "" };
    return {
      shorthand,
      nature: kind === "note" ? nature : nature === "request" ? ("remark" as const) : nature,
      text,
      favourite: n < 9 ? n + 1 : null,
      folder: folderOf(shorthand),
      tags: TAGS[shorthand] ?? [],
      kind,
      replacement,
      criterion: CRITERIA[shorthand] ?? "",
    };
  });

function folderOf(shorthand: string): string {
  return (
    Object.entries(FOLDERS).find(([, own]) => own.split(" ").includes(shorthand))?.[0] ??
    "In general"
  );
}

/** Where in a piece a comment belongs: what it is put on, by shorthand. */
export const FINDERS: readonly [pattern: RegExp, shorthands: readonly string[]][] = [
  [/\bI think[^.\n]*\./u, ["ev", "notsure", "maybe"]],
  [
    /\b\d+(?:\.\d+)?(?= (?:higher|below|more|in ten)|\.(?:\s|$)|,? and the wettest)/u,
    ["unit", "datum"],
  ],
  [/\b(?:very|really) \p{L}+/u, ["very", "real", "show"]],
  [/\bThings\b[^.\n]*\./u, ["vague", "name"]],
  [/\b(?:Everybody|People|Nobody)\b[^.\n]*\./u, ["who", "some", "people"]],
  [/\b(?:says that|told me|said that)\b[^.\n]*\./u, ["said", "said2", "ask"]],
  [/\bbecause\b[^.\n]*\./u, ["because", "cause"]],
  [/\bsmells? of[^.\n]*\./u, ["smell"]],
  [/\bcounted[^.\n]*\./u, ["num", "num2"]],
  [/\blike [^.\n]*\./u, ["simile", "simile2"]],
  [/\bIt is strange[^.\n]*\./u, ["true", "show"]],
  [/\b(?:some|somebody|something)\b/u, ["who", "vague", "it"]],
  [/\bstripes\b[^.\n]*\./u, ["light"]],
  [/\bdifferent\b[^.\n]*\./u, ["big", "show", "sig"]],
  [/\b(?:low|high|late)\b[^.\n]*\./u, ["err", "when", "range"]],
  [/\bcold\b[^.\n]*\./u, ["show", "cold"]],
  [/\bNext time[^.\n]*\./u, ["fair2", "repeat", "mist"]],
  [/\bmodel\b[^.\n]*\./u, ["model"]],
];

/** Words on the whole, by the kind of work they are about: a film is not told that its paragraph is good. */
export const OVERALL = {
  letter: {
    revise: [
      "{name}, the place is there and I can stand in it. What I miss is one person in it who speaks. Do the requests in order; the first matters most.",
      "A strong beginning. In the middle you start telling me things that you showed me before. Look at the marks, choose three sentences to cut, and send it again.",
      "{name}, read it aloud to somebody before you hand it in again. Wherever they look up, something is missing.",
    ],
    final: [
      "Done, and done well. The last paragraph is the best you have written this term.",
      "All that I asked for is there. Next time, begin where it gets interesting.",
      "Much better than the first round: now I see it with your eyes.",
      "Good work, {name}. Your drawing in words is more exact than most photographs.",
    ],
  },
  figures: {
    revise: [
      "You have measured carefully. Now make it readable for somebody who was not there: units, please, and a sentence that says what the figures show.",
      "I like how honest this is about what went wrong. Answer your own question at the end, then it is done.",
      "Good notes, but I can’t yet tell what you saw from what you concluded. Separate the two.",
    ],
    final: [
      "Clear and complete. I would trust these figures.",
      "Right in all but one place, and you saw that one yourself.",
      "You worked hard on this and it shows. Keep it; you will want to compare next year.",
    ],
  },
  explained: {
    revise: [
      "Your explanation is nearly complete. One step is missing, and without it I could not draw it. You will find the place.",
      "Good, but I can’t yet tell what you know from what you suppose. Say which is which.",
    ],
    final: [
      "It does what it should. You can do more than this, and I think you know it.",
      "All that I asked for is there, and in the right order.",
      "Clear. I could explain it to somebody else now, {name}.",
    ],
  },
  picture: {
    revise: [
      "The shapes are right. Give it an edge to measure by: where is the horizon, and how high is the lowest layer?",
      "Carefully looked at, {name}. Name what you drew, beside it, so that it can be read without you.",
    ],
    final: [
      "I would know this sky again. The shading tells how thick it was.",
      "Exact, and still a picture. The date and the wind beside it make it useful.",
    ],
  },
  heard: {
    revise: [
      "I could follow every word but the numbers: say them more slowly, and stop before each place.",
      "The order is right. Speak to somebody who is at sea, {name}, not to the paper.",
    ],
    final: [
      "I could have written it all down. That is what a forecast is for.",
      "Calm and clear. The pause before the gale warning was well placed.",
    ],
  },
  film: {
    revise: [
      "I can see that it works. Now let me see the scale: hold it still and close for five seconds while the water rises.",
      "Well built, {name}. In the film I can’t tell how you made sure that it stands level; show that.",
    ],
    final: [
      "Now I could build one myself. That is the best that can be said of it.",
      "Short, steady, and the scale can be read. Done.",
    ],
  },
  paper: [
    "Notebook seen: dated, legible, and every walk is in it.",
    "Notebook seen. Two walks are missing the weather.",
    "Notebook seen. The sketches are getting better each week.",
    "Notebook seen; it got wet, but it can be read.",
  ],
};

/** The kind of work a title of the demo is about. */
export function kindOfWork(title: string): Exclude<keyof typeof OVERALL, "paper"> {
  if (/^letter|script/i.test(title)) return "letter";
  if (/film/i.test(title)) return "film";
  if (/spoken/i.test(title)) return "heard";
  if (/drawn|clouds|poster/i.test(title)) return "picture";
  return /why|memory/i.test(title) ? "explained" : "figures";
}

export const REPLIES = [
  "I asked my uncle, it was 1974.",
  "I am not sure what you mean here, can you tell me tomorrow?",
  "I cut it, you were right.",
  "Done! I moved it to the beginning.",
  "It is in centimetres, I forgot.",
  "I would like to keep this word, because it is the one he used.",
  "I couldn’t find the table any more so I used the numbers from Aino.",
];
export const QUESTIONS = [
  "Is it all right if it is longer than two pages?",
  "I was at the dentist on Thursday, does it still count as late?",
  "Can I hand in the drawing on paper?",
  "I can’t open the link to the tide table on my phone.",
];

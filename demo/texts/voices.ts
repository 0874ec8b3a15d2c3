/** What is spoken in the demo, by which of flite's voices: teachers' notes, tasks, comments of the bank, students' replies. */
export type Spoken = { key: string; voice: "slt" | "rms" | "awb" | "kal"; text: string };

export const VOICES: readonly Spoken[] = [
  // Odalys Brandt, on words and on the whole
  {
    key: "note-1",
    voice: "slt",
    text: "Here you say it is cold, and then you say it again. Give me one thing I can feel, and leave the rest out.",
  },
  {
    key: "note-2",
    voice: "slt",
    text: "I read this part twice, because I liked it. Now do the same for the first page.",
  },
  {
    key: "note-3",
    voice: "slt",
    text: "Listen to how this sounds when I read it. The second sentence carries everything. The first one can go.",
  },
  {
    key: "note-4",
    voice: "slt",
    text: "Look at your table again before you go on. The third row does not agree with what you write here.",
  },
  {
    key: "note-5",
    voice: "slt",
    text: "This is much better than the last round. You were brave to cut so much.",
  },
  {
    key: "whole-1",
    voice: "slt",
    text: "On the whole this is a good piece of work. Two things for the next round. First, say where you stood. Second, read the last paragraph aloud, and hear where you run out of breath.",
  },
  {
    key: "whole-2",
    voice: "slt",
    text: "Thank you for this. I could follow every step, and I would do it the same way. Keep the figures as they are.",
  },
  // Ruben Achterberg
  {
    key: "note-6",
    voice: "rms",
    text: "I checked this with the tide table, and you are right. Write down how you found it.",
  },
  // on moments of a forecast and of a film
  {
    key: "moment-1",
    voice: "slt",
    text: "Here you are too fast. Nobody on a boat can write this down.",
  },
  { key: "moment-2", voice: "slt", text: "Good. Calm and clear, even for the gale." },
  {
    key: "moment-3",
    voice: "slt",
    text: "Stop here and look. Can you read the scale in this picture?",
  },
  // the bank
  {
    key: "bank-1",
    voice: "slt",
    text: "Read this sentence aloud. Where do you run out of breath?",
  },
  { key: "bank-2", voice: "slt", text: "Which unit is this in? A number alone does not say." },
  {
    key: "bank-3",
    voice: "slt",
    text: "Show me this instead of telling me. What would I see, hear or smell?",
  },
  // tasks
  {
    key: "task-letter",
    voice: "slt",
    text: "Write to me from a place that has changed. Two pages are enough. I want to stand beside you and see what is gone.",
  },
  {
    key: "task-forecast",
    voice: "slt",
    text: "You have sixty seconds. Speak slowly, and go round the island in order. Somebody out there is writing down what you say.",
  },
  // students
  {
    key: "reply-1",
    voice: "awb",
    text: "I have done it now. I read it to my brother, and he stopped me at the same place.",
  },
  {
    key: "reply-2",
    voice: "kal",
    text: "I do not understand what you mean by the second part. Can I leave it as it is?",
  },
  {
    key: "reply-3",
    voice: "rms",
    text: "Thank you. I will look at the table again tomorrow morning.",
  },
  {
    key: "reply-4",
    voice: "awb",
    text: "The wind was so strong that the camera moved. Shall I film it again?",
  },
];

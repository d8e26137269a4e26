/** `reacher controls [WORD]`: every control by family, with its neutral label; or those that fit a word. */
import { allControls, placeLabel, type Control } from "reacher";
import { meantControl } from "reacher/check";
import { BadAnswer } from "../faults.js";
import { padEnd, paint, print, printJson, widest } from "../output.js";

/** Families as people would look for them, in the order of the hand. */
const FAMILIES: readonly { readonly title: string; readonly has: (control: Control) => boolean }[] = [
  { title: "Keys", has: ({ device }) => device === "keyboard" },
  {
    title: "Mouse buttons and wheel",
    has: ({ device, family }) => device === "mouse" && family !== "motion" && family !== "pointer",
  },
  { title: "Mouse movement, for turns", has: ({ family }) => family === "motion" },
  { title: "Where the mouse is, for vectors", has: ({ family }) => family === "pointer" },
  { title: "Pad buttons", has: ({ family }) => family === "button" },
  { title: "Pad triggers, 0 to 1", has: ({ family }) => family === "trigger" },
  { title: "Pad sticks and the direction pad", has: ({ family }) => family === "stick" || family === "dpad" },
  { title: "One way, -1 to 1, for axes", has: ({ family }) => family === "axis" || family === "dpadAxis" },
  { title: "One side of a stick, as a press or 0 to 1", has: ({ family }) => family === "half" },
];

export async function controlsCommand(
  word: string | undefined,
  { json }: { readonly json?: boolean },
): Promise<number> {
  const found = fitting(word);
  if (found.length === 0)
    throw new BadAnswer(`no control fits ${JSON.stringify(word)}; reacher controls lists all of them`);
  if (json === true) {
    for (const { name, device, family } of found)
      printJson({ control: name, label: placeLabel(name), device, family });
    return 0;
  }
  const width = widest(found.map(({ name }) => name));
  let isFirst = true;
  for (const { title, has } of FAMILIES) {
    const own = found.filter(has);
    if (own.length === 0) continue;
    if (!isFirst) print();
    isFirst = false;
    print(paint.title(title));
    for (const { name } of own) print(`  ${padEnd(name, width, paint.control)}  ${placeLabel(name)}`);
  }
  if (word === undefined) {
    print();
    print(paint.dim("Anything else on a pad: PadButton17, PadAxis4, by its number."));
  }
  return 0;
}

/** All controls, or those whose name or label has the word in it, or that people mean by it. */
function fitting(word: string | undefined): Control[] {
  const all = allControls();
  if (word === undefined) return all;
  const plain = (text: string) => text.toLowerCase().replace(/[\s_-]/g, "");
  const asked = plain(word);
  const isIn = (text: string) => (asked.length < 2 ? plain(text) === asked : plain(text).includes(asked));
  const found = all.filter(({ name }) => isIn(name) || isIn(placeLabel(name)));
  const meant = meantControl(word);
  return found.length > 0 ? found : all.filter(({ name }) => name === meant);
}

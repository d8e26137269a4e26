/** Guesses the control that somebody means, say by a key's label: by letter, then by meaning, then by spelling. */
import { allControls, findControl } from "./catalogue.js";
import { nearest } from "./nearest.js";

/** What people call keys and buttons, in small letters without spaces. */
const MEANT: Readonly<Record<string, string>> = {
  esc: "Escape",
  ctrl: "ControlLeft",
  control: "ControlLeft",
  shift: "ShiftLeft",
  alt: "AltLeft",
  option: "AltLeft",
  meta: "MetaLeft",
  command: "MetaLeft",
  cmd: "MetaLeft",
  windows: "MetaLeft",
  return: "Enter",
  spacebar: "Space",
  del: "Delete",
  ins: "Insert",
  pgup: "PageUp",
  pgdn: "PageDown",
  up: "ArrowUp",
  down: "ArrowDown",
  left: "ArrowLeft",
  right: "ArrowRight",
  mouseleft: "MouseMain",
  leftmouse: "MouseMain",
  mouseright: "MouseSecondary",
  rightmouse: "MouseSecondary",
  wheel: "WheelUp",
  mousewheel: "WheelUp",
  scroll: "WheelUp",
  mousewheelup: "WheelUp",
  scrollup: "WheelUp",
  mousewheeldown: "WheelDown",
  scrolldown: "WheelDown",
};

/** The likely control, or `undefined` where nothing is near enough to be worth a suggestion. */
export function meantControl(word: string): string | undefined {
  if (typeof word !== "string") return undefined;
  if (/^[a-z]$/i.test(word)) return `Key${word.toUpperCase()}`;
  if (/^\d$/.test(word)) return `Digit${word}`;
  const bare = word.toLowerCase().replace(/[\s_-]/g, "");
  if (Object.hasOwn(MEANT, bare)) return MEANT[bare];
  if (/^f\d{1,2}$/.test(bare) && findControl(bare.toUpperCase()) !== undefined) return bare.toUpperCase();
  return nearest(
    word,
    allControls().map(({ name }) => name),
  );
}

/** `; did you mean X?`, or nothing where no control is near. */
export function didYouMeanControl(word: string): string {
  if (typeof word !== "string") return "";
  const name = meantControl(word);
  return name === undefined ? "" : `; did you mean ${name}?`;
}

/** What the settings say, in English: each may be replaced, and so translated. Constants. */

export const WORDS = {
  keys: "Keys",
  feel: "Feel",
  profile: "Profile",
  everything: "Everything",
  action: "Action",
  none: "none",
  undo: "Undo",
  reset: "Reset",
  resetAll: "Reset everything",
  done: "Done",
  add: "New profile",
  remove: "Remove",
  nameOf: "Name of the new profile",
  close: "Close",
  again: "Press another",
  clear: "Clear it",
  byDefault: "Back to default",
  nothing: "Change nothing",
  both: "Let one press do both",
  measure: "Measure my double tap",
  giveUp: "Escape or the pad's left middle button cancels.",
  cancelled: "Nothing was changed.",
  timeout: "Nothing was pressed.",
  lost: "The window or the pad was lost.",
  replaced: "",
  up: "↑",
  left: "←",
  down: "↓",
  right: "→",
  minus: "−",
  plus: "+",
  option: (option: string) => option,
  press: (now: string) =>
    now === "" ? "Press what you want there." : `Press what you want in place of ${now}.`,
  letGo: (controls: string) => `Let go of ${controls} first.`,
  caught: (control: string) => `${control}. Let go.`,
  refused: (control: string, why: string) => `${control} cannot be used: ${why}.`,
  used: (control: string, others: string) => `${control} is used by ${others} already.`,
  also: (others: string) => `also ${others}`,
  swap: (others: string, now: string) =>
    now === "" ? `Take it from ${others}` : `Swap: ${others} gets ${now}`,
  take: (others: string) => `Take it: ${others} is left without`,
  and: (names: readonly string[]) => names.join(" and "),
  missing: (actions: string) => `${actions} has no key: choose one before you leave.`,
  number: (value: number, unit: string) =>
    unit === "ms"
      ? `${Math.round(value)} ms`
      : unit === "share"
        ? `${Math.round(value * 100)} %`
        : unit === "degrees"
          ? `${+value.toFixed(2)}°`
          : `× ${+value.toFixed(2)}`,
  taps: (count: number, of: number) => `Double-tap any key, as you do in the game: ${count} of ${of}.`,
};
/** All that a settings screen says, by name; texts with a name or a number in them are functions. */
export type Words = typeof WORDS;

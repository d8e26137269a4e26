/** What a game says that loads the rules for players' own keys later, before they are there; it ends with the call. */
export const LATER =
  "this game loads what players' keys need when they are wanted; await input.bringKeys() before the first ";

/** The key of a symbol by which a layer in development says that in production the rules would not be there yet. */
export const WAITS = "reacher.waitsForRules";

/** The key of a symbol by which the panel says that it looks, for what a build will lack: it is not part of one either. */
export const LOOKS = "reacher.looks";

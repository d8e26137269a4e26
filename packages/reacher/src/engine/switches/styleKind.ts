/** The styles of a switch, by the number in the cells. */
import type { Style } from "../../plan/types.js";

export const enum StyleKind {
  Hold,
  Toggle,
  Either,
}

export const KINDS: { readonly [style in Style]: StyleKind } = {
  hold: StyleKind.Hold,
  toggle: StyleKind.Toggle,
  either: StyleKind.Either,
};

/** Why presses do what they do: a part of its own, since it needs the rules, which come while the game is played already. */
export { explainLayer } from "reacher/trace";

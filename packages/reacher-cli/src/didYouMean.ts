/** The library's own suggestion for a misspelt name, for the command's arguments. */
export { didYouMean } from "reacher/check";

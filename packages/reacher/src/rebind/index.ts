/** The player's own keys: changes, clashes, resets. */
export { controlAt, rebind, resetTo, type Choice, type Clash, type Rebinding } from "./rebind.js";

/**
 * Scripts are lines of text: +Key presses, -Key releases, numbers wait (ms), >mode enters, <mode leaves, !action mutes, ~action
 * unmutes, ^flag is so, _flag is not, =action is set on, /action off, *action is driven, #action let go, ?action is taken.
 */
import { createInputLayer, type InputLayer, type Plan } from "reacher";
import { play } from "reacher/testing";

/** Plays a script into a plan and tells what turned on, off and pulsed, and when. */
export function changes(
  actions: object,
  script: string,
  more: object = {},
  listen: (input: InputLayer) => void = () => {},
): string {
  const plan = { reacherPlan: 1, actions, ...more } as unknown as Plan;
  const input = createInputLayer(plan);
  const seen: string[] = [];
  for (const [name, { kind }] of Object.entries(plan.actions)) {
    if (kind !== "switch") continue;
    for (const change of ["on", "off", "pulse", "grant"] as const)
      input.on(name as never, change, (t) => seen.push(`${name} ${change} ${t}`));
  }
  listen(input);
  const hands = play(input);
  for (const word of script.split(" ")) {
    const [first, rest] = [word[0]!, word.slice(1)];
    if (first === "+") hands.press(rest);
    else if (first === "-") hands.release(rest);
    else if (first === ">") input.enter(rest, hands.t);
    else if (first === "<") input.leave(rest, hands.t);
    else if (first === "!") input.mute(rest, "why", hands.t);
    else if (first === "~") input.unmute(rest, "why", hands.t);
    else if (first === "^") input.setFlag(rest, true, hands.t);
    else if (first === "_") input.setFlag(rest, false, hands.t);
    else if (first === "=") input.setSwitch(rest as never, true, hands.t);
    else if (first === "/") input.setSwitch(rest as never, false, hands.t);
    else if (first === "*") input.drive(rest as never, true as never, "cut", hands.t);
    else if (first === "#") input.drive(rest as never, null, "cut", hands.t);
    else if (first === "?") seen.push(`take ${input.take(hands.step() && (rest as never))} ${hands.t}`);
    else if (first === "@") hands.tilt("PadLeftStick", Number(rest), 0);
    else if (word === "blur") hands.loseFocus();
    else hands.wait(Number(word));
  }
  hands.step();
  return seen.join(", ");
}

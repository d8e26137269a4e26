/**
 * Controls that a plan names itself: a button on the page, a thumb stick, a sensor, a pedal, an AI. In: their names and kinds. Out: controls
 * like those of the catalogue, and numbers after its last. Together with the catalogue they are all that a plan may name.
 */
import { findControl, isRaw, type Control, type Device, type ControlFamily } from "./catalogue.js";
import { placeLabel } from "./labels.js";
import { nameOf, NO_NUMBER, findNumber, OWN_FROM } from "./numbers.js";

/** What an own control gives; `amount` adds up between steps, as the mouse does. */
export type OwnKind = "button" | "trigger" | "axis" | "stick" | "amount";
export const OWN_KINDS: readonly OwnKind[] = ["button", "trigger", "axis", "stick", "amount"];

/** How many a plan may have. */
export const MOST_OWN = 64;

/** The devices of the catalogue's controls; own ones have others. */
export const DEVICE_NAMES: readonly Device[] = ["keyboard", "mouse", "pad"];

/** A control that a plan names itself. */
export interface OwnControl {
  readonly name: string;
  readonly kind: OwnKind;
  readonly label: string;
  /** What it is on, for readings and slots. */
  readonly device: string;
  /** Whether a lost focus leaves it as it is. */
  readonly keepsFocus: boolean;
}

const FAMILIES: Readonly<Record<OwnKind, ControlFamily>> = {
  button: "button",
  trigger: "trigger",
  axis: "axis",
  stick: "stick",
  amount: "motion",
};
const SIDES = { Up: ["Y", -1], Down: ["Y", 1], Left: ["X", -1], Right: ["X", 1] } as const;

/** The control with its parts, by the names that they have. */
export function namesOfOwn({ name, kind, device }: Pick<OwnControl, "name" | "kind" | "device">): Control[] {
  const family = FAMILIES[kind];
  if (kind !== "stick" && kind !== "amount") return [{ name, device, family, parts: [name], sign: 1 }];
  const [x, y] = [`${name}X`, `${name}Y`];
  const part = kind === "stick" ? "axis" : "motion";
  const sides = Object.entries(SIDES).map(([side, [way, sign]]): Control => ({
    name: name + side,
    device,
    family: "half",
    parts: [name + way],
    sign,
  }));
  return [
    { name, device, family, parts: [x, y], sign: 1 },
    { name: x, device, family: part, parts: [x], sign: 1 },
    { name: y, device, family: part, parts: [y], sign: 1 },
    ...(kind === "stick" ? sides : []),
  ];
}

/** The catalogue and a plan's own controls, by name and by number. */
export class Controls {
  /** The devices of own controls, in their order. */
  readonly devices: readonly string[];
  /** Own names, with their parts. */
  readonly names: readonly string[];
  private readonly byName = new Map<string, { readonly control: Control; readonly own: OwnControl }>();
  /** Own names that are fed; a number is the place here. */
  private readonly raw: string[] = [];

  constructor(readonly own: readonly OwnControl[]) {
    for (const one of own)
      for (const control of namesOfOwn(one)) {
        this.byName.set(control.name, { control, own: one });
        if (isRaw(control)) this.raw.push(control.name);
      }
    this.names = [...this.byName.keys()];
    this.devices = [...new Set(own.map(({ device }) => device))];
  }

  find(name: string): Control | undefined {
    return findControl(name) ?? this.byName.get(name)?.control;
  }

  /** The plan's own control that has this name or part; `undefined` for one of the catalogue. */
  ownOf(name: string): OwnControl | undefined {
    return this.byName.get(name)?.own;
  }

  isRaw(name: string): boolean {
    const control = typeof name === "string" ? this.find(name) : undefined;
    return control !== undefined && isRaw(control);
  }

  /** `NO_NUMBER` if nothing of this name is fed. */
  numberOf(name: string): number {
    const known = findNumber(name);
    if (known !== NO_NUMBER) return known;
    const place = this.raw.indexOf(name);
    return place < 0 ? NO_NUMBER : OWN_FROM + place;
  }

  nameOf(number: number): string {
    return number < OWN_FROM ? nameOf(number) : this.raw[number - OWN_FROM]!;
  }

  /** The label of an own control or of a part of it; of others what `labelOf` says. */
  labelOf(name: string, labelOf: (control: string) => string = placeLabel): string {
    const known = this.byName.get(name);
    if (known === undefined) return labelOf(name);
    const part = name.slice(known.own.name.length);
    return part === ""
      ? known.own.label
      : `${known.own.label} ${part.length > 1 ? part.toLowerCase() : part}`;
  }
}

const known = new WeakMap<readonly OwnControl[], Controls>();

/** All controls that a plan may name. */
export function controlsOf({ controls }: { readonly controls: readonly OwnControl[] }): Controls {
  if (controls.length === 0) return NO_OWN;
  let found = known.get(controls);
  if (found === undefined) known.set(controls, (found = new Controls(controls)));
  return found;
}

/** The catalogue alone. */
export const NO_OWN: Controls = /* @__PURE__ */ new Controls([]);

/** `reacher table PLAN`: every control and what it does alone; every action with its controls. */
import { createInputLayer, type Plan } from "reacher";
import {
  controlsOf,
  shownOf,
  type CheckedAction,
  type CheckedEntry,
  type CheckedMovement,
  type CheckedPlan,
  type CheckedSwitch,
  type Source,
} from "reacher/internal";
import {
  columns as terminalColumns,
  linesOf,
  padEnd,
  padStart,
  paint,
  print,
  printJson,
  signed,
  widest,
} from "../output.js";
import { didYouMean } from "../didYouMean.js";
import { UseError } from "../faults.js";
import { mustBeSeat, readPlanFile, readRunnablePlan } from "../planFile.js";

export interface TableOptions {
  readonly json?: boolean;
  readonly seat?: string;
  readonly mode?: string;
}

export async function table(file: string, options: TableOptions): Promise<number> {
  const whole = await readRunnablePlan(file);
  const { raw } = await readPlanFile(file);
  const plan = narrowed(whole, options);
  const controls = controlRows(plan, raw as Plan);
  if (options.json === true) {
    for (const row of controls) printJson(row);
    for (const action of plan.actions)
      printJson({ action: action.name, kind: action.kind, slots: bySlot(action) });
    return 0;
  }
  print(paint.title("Controls"));
  const width = widest(controls.map(({ control }) => control));
  for (const { control, action, does } of controls) {
    print(`  ${padStart(control, width, paint.control)} -> ${paint.action(action)} ${does}`);
  }
  print();
  print(paint.title("Actions"));
  const columns = plan.slots.map(({ name, label }) => {
    const cells = plan.actions.map((action) => bySlot(action)[name]?.join(" ") ?? "-");
    const texts = [label, ...cells];
    return { label, cells, width: widest(texts), least: widest(texts.flatMap((text) => text.split(" "))) };
  });
  const names = widest(plan.actions.map(({ name }) => name));
  const kinds = widest(plan.actions.map(kindText));
  // Where a terminal is too narrow for all, the widest give way.
  const gap = 2;
  let over =
    columns.reduce((sum, { width }) => sum + width + gap, names + kinds + 2 * gap) - terminalColumns();
  for (; over > 0; over--) {
    const [most] = columns.filter(({ width, least }) => width > least).sort((a, b) => b.width - a.width);
    if (most === undefined) break;
    most.width--;
  }
  print(
    paint.dim(
      `  ${"".padEnd(names)}  ${"".padEnd(kinds)}  ${columns.map(({ label, width }) => label.padEnd(width)).join("  ")}`.trimEnd(),
    ),
  );
  plan.actions.forEach((action, n) => {
    const cells = columns.map((column) => linesOf(column.cells[n]!, column.width));
    for (let line = 0; line < Math.max(1, ...cells.map(({ length }) => length)); line++) {
      const [name, kind] = line === 0 ? [action.name, kindText(action)] : ["", ""];
      const texts = cells.map((lines, at) => padEnd(lines[line] ?? "", columns[at]!.width, paint.control));
      print(
        `  ${padEnd(name, names, paint.action)}  ${padEnd(kind, kinds, paint.dim)}  ${texts.join("  ")}`.trimEnd(),
      );
    }
  });
  return 0;
}

/** The plan with only the slots of a seat, and only the actions that are live in a mode. */
function narrowed(plan: CheckedPlan, { seat, mode }: TableOptions): CheckedPlan {
  mustBeSeat(plan, seat);
  const modes = plan.modes.map(({ name }) => name);
  if (mode !== undefined && !modes.includes(mode)) {
    const has = modes.length === 0 ? "no modes" : modes.join(", ");
    throw new UseError(`--mode ${mode}: the plan has ${has}${didYouMean(mode, modes)}`);
  }
  const slots = plan.seats.find(({ name }) => name === seat)?.slots;
  const mine = ({ slot }: { readonly slot: string }) => slots?.includes(slot) ?? true;
  const actions = plan.actions
    .filter((action) => mode === undefined || action.in.length === 0 || action.in.includes(mode))
    .map((action): CheckedAction => {
      if (action.kind === "switch") return { ...action, entries: action.entries.filter(mine) };
      if (action.kind === "turn")
        return { ...action, mice: action.mice.filter(mine), sticks: action.sticks.filter(mine) };
      return { ...action, ends: action.ends.filter(mine), sticks: action.sticks.filter(mine) };
    });
  return { ...plan, actions, slots: plan.slots.filter(({ name }) => mine({ slot: name })) };
}

interface ControlRow {
  readonly control: string;
  readonly label: string;
  readonly action: string;
  readonly does: string;
}

/** What each control does when it alone is used: found out by using it. */
function controlRows(plan: CheckedPlan, raw: Plan): ControlRow[] {
  const rows = new Map<string, ControlRow>();
  const add = (control: string, action: string, does: string) => {
    const key = `${control} ${action} ${does}`;
    if (!rows.has(key)) rows.set(key, { control, label: controlsOf(plan).labelOf(control), action, does });
  };
  for (const action of plan.actions) {
    if (action.kind === "turn") {
      for (const { control } of action.mice) add(control.name, action.name, "(turns)");
      for (const { control, perSecond } of action.sticks)
        add(control.name, action.name, `(turns, up to ${perSecond} a second)`);
    } else if (action.kind !== "switch")
      for (const { control, slot } of [...action.ends, ...action.sticks])
        add(control.name, action.name, effect(plan, raw, action, control.name, slot));
    else
      for (const entry of action.entries)
        for (const source of entry.of)
          add(
            source.name,
            action.name,
            `(${resultText(source)}${pressText(entry, source.name)}${styleText(action)})`,
          );
  }
  return [...rows.values()];
}

/** How an entry wants its control used. */
function pressText(entry: CheckedEntry, name: string): string {
  const use = shownOf(entry).use(name);
  return use === "" ? "" : `${use}, `;
}

/** What of a movement presses it. */
function resultText(source: Source): string {
  if (!("result" in source)) return "";
  if (source.result === "length") return `from a length of ${source.press}, `;
  return source.result === "sector" ? "the nearest direction, " : "as it comes out, ";
}

function styleText(action: CheckedSwitch): string {
  return action.startsOn && action.style !== "hold" ? `${action.style}, starts on` : action.style;
}

/** Long after any ramp. */
const SETTLED = 100_000;

function effect(plan: CheckedPlan, raw: Plan, action: CheckedMovement, name: string, slot: string): string {
  const control = controlsOf(plan).find(name)!;
  if (control.family === "stick") return "(stick)";
  const point = action.sticks.find((one) => one.control.name === name)?.pointer;
  if (point !== undefined) return point.around === undefined ? "(points)" : `(points, from ${point.around})`;
  const input = createInputLayer(raw);
  const seat = plan.seats.find(({ slots }) => slots.includes(slot))?.name;
  if (seat === undefined) return "(no seat has it)";
  if (plan.seated && control.device === "pad") input.assignPad(seat, 0);
  for (const mode of action.in) input.seat(seat).enter(mode);
  const part = control.parts[0]!;
  let t = 0;
  const use = (value: number) => {
    input.feed({ t: t + 1, control: part, value });
    input.step((t += SETTLED));
    const reading = input.seat(seat).now[action.name]!;
    return "x" in reading
      ? `${signed(reading.x)}, ${signed(reading.y)}`
      : "value" in reading
        ? signed(reading.value)
        : "";
  };
  if (control.family === "axis") return `(${use(-1)} to ${use(1)})`;
  const full = use(control.sign);
  return control.family === "trigger" || control.family === "half" ? `(0 to ${full})` : `(${full})`;
}

function bySlot(action: CheckedAction): Record<string, string[]> {
  const slots: Record<string, string[]> = {};
  if (action.kind === "switch") {
    for (const entry of action.entries) (slots[entry.slot] ??= []).push(shownOf(entry).brief);
    return slots;
  }
  const others = action.kind === "turn" ? action.mice : action.ends;
  for (const other of [...others, ...action.sticks]) {
    const { slot, control, address } = other;
    // A direction pad given whole is four ends, or two, at one address.
    const whole =
      control.name.startsWith("PadDpad") && !("end" in other && address.endsWith(`.${other.end}`));
    const names = (slots[slot] ??= []);
    const sides = /(Left|Right)$/.test(control.name) ? "PadDpadX" : "PadDpadY";
    const name = !whole ? control.name : action.kind === "axis" ? sides : "PadDpad";
    if (!names.includes(name)) names.push(name);
  }
  return slots;
}

function kindText(action: CheckedAction): string {
  return action.kind === "switch" ? `switch, ${action.style}` : action.kind;
}

/** `reacher table PLAN`: every control and what it does alone; every action with its controls. */
import { createInputLayer, findControl, placeLabel, type CheckedAction, type CheckedPlan, type Plan } from "reacher";
import { padEnd, padStart, paint, print, printJson, signed, widest } from "../output.js";
import { readPlanFile, readRunnablePlan } from "../planFile.js";

export async function table(file: string, options: { json?: boolean }): Promise<number> {
  const plan = await readRunnablePlan(file);
  const { raw } = await readPlanFile(file);
  const controls = controlRows(plan, raw as Plan);
  if (options.json === true) {
    for (const row of controls) printJson(row);
    for (const action of plan.actions) printJson({ action: action.name, kind: action.kind, slots: bySlot(action) });
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
    return { label, cells, width: widest([label, ...cells]) };
  });
  const names = widest(plan.actions.map(({ name }) => name));
  const kinds = widest(plan.actions.map(kindText));
  print(
    paint.dim(`  ${"".padEnd(names)}  ${"".padEnd(kinds)}  ${columns.map(({ label, width }) => label.padEnd(width)).join("  ")}`.trimEnd()),
  );
  plan.actions.forEach((action, n) => {
    const cells = columns.map((column) => padEnd(column.cells[n]!, column.width, paint.control));
    print(`  ${padEnd(action.name, names, paint.action)}  ${padEnd(kindText(action), kinds, paint.dim)}  ${cells.join("  ")}`.trimEnd());
  });
  return 0;
}

interface ControlRow {
  readonly control: string;
  readonly label: string;
  readonly action: string;
  readonly does: string;
}

/** What each control does when it alone is used: found out by using it. */
function controlRows(plan: CheckedPlan, raw: Plan): ControlRow[] {
  const rows: ControlRow[] = [];
  const seen = new Set<string>();
  for (const action of plan.actions) {
    const placed = action.kind === "switch" ? action.presses : [...action.ends, ...action.sticks];
    for (const { control } of placed) {
      const key = `${control.name} ${action.name}`;
      if (seen.has(key)) continue;
      seen.add(key);
      rows.push({ control: control.name, label: placeLabel(control.name), action: action.name, does: effect(raw, action, control.name) });
    }
  }
  return rows;
}

function effect(raw: Plan, action: CheckedAction, name: string): string {
  const control = findControl(name)!;
  if (action.kind === "switch") {
    const starts = action.startsOn && action.style !== "hold" ? ", starts on" : "";
    return `(${action.style}${starts})`;
  }
  if (control.family === "stick") return "(stick)";
  const input = createInputLayer(raw);
  const part = control.parts[0]!;
  const use = (value: number) => {
    input.feed({ t: input.now === null ? 0 : 1, control: part, value });
    const reading = input.step(1)[action.name]!;
    return "x" in reading ? `${signed(reading.x)}, ${signed(reading.y)}` : "value" in reading ? signed(reading.value) : "";
  };
  if (control.family === "axis") return `(${use(-1)} to ${use(1)})`;
  const full = use(control.sign);
  return control.family === "trigger" || control.family === "half" ? `(0 to ${full})` : `(${full})`;
}

function bySlot(action: CheckedAction): Record<string, string[]> {
  const slots: Record<string, string[]> = {};
  const placed = action.kind === "switch" ? action.presses : [...action.ends, ...action.sticks];
  for (const { slot, control, address } of placed) {
    // A direction pad given whole is four ends at one address.
    const whole = control.name.startsWith("PadDpad") && address.split(".").length === 2 && action.kind !== "switch";
    const names = (slots[slot] ??= []);
    const name = whole ? "PadDpad" : control.name;
    if (!names.includes(name)) names.push(name);
  }
  return slots;
}

function kindText(action: CheckedAction): string {
  return action.kind === "switch" ? `switch, ${action.style}` : action.kind;
}

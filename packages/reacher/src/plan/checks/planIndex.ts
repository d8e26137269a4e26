/** An index of a plan's actions and entries, for the rules of `check`. In: a plan. Out: look-ups. Pure. */
import type { CheckedAction, CheckedEntry, CheckedPlan, CheckedSwitch, Source } from "../checked.js";
import type { Checked, GestureKind } from "../gestures/gesture.js";
import { directionsIn } from "../ways.js";
import { bindingsOf, canBeLiveTogether, type Binding } from "./bindings.js";

/** An entry, and its action. */
export interface OwnedEntry<K extends GestureKind = GestureKind> {
  readonly action: CheckedSwitch;
  readonly entry: Checked<K>;
}

export class PlanIndex {
  readonly bindings: readonly { readonly action: CheckedAction; readonly all: readonly Binding[] }[];
  private readonly byName: ReadonlyMap<string, CheckedAction>;
  private readonly bySource = new Map<string, OwnedEntry[]>();

  constructor(readonly plan: CheckedPlan) {
    this.byName = new Map(plan.actions.map((action) => [action.name, action]));
    this.bindings = plan.actions.map((action) => ({ action, all: bindingsOf(action) }));
    for (const action of plan.actions) {
      if (action.kind !== "switch") continue;
      for (const entry of action.entries)
        for (const name of new Set(entry.of.map((source) => source.name))) {
          const known = this.bySource.get(name);
          if (known === undefined) this.bySource.set(name, [{ action, entry }]);
          else known.push({ action, entry });
        }
    }
  }

  action(name: string): CheckedAction | undefined {
    return this.byName.get(name);
  }

  /** The controls that press a source. */
  controlsOf(source: Source): readonly string[] {
    if ("control" in source) return [source.name];
    const movement = this.byName.get(source.action);
    if (movement === undefined || movement.kind === "switch" || movement.kind === "turn") return [];
    const ways = directionsIn(source);
    return movement.ends.filter(({ way }) => ways.includes(way)).map(({ control }) => control.name);
  }

  /** Entries of one kind on any source of this one, of actions that can be live with its own; in the plan's order. */
  beside<K extends GestureKind>(action: CheckedSwitch, { of }: CheckedEntry, kind: K): OwnedEntry<K>[] {
    const found = new Set<CheckedEntry>();
    return of.flatMap(({ name }) =>
      (this.bySource.get(name) ?? []).filter((one): one is OwnedEntry<K> => {
        if (one.entry.kind !== kind || found.has(one.entry) || !canBeLiveTogether(action, one.action))
          return false;
        found.add(one.entry);
        return true;
      }),
    );
  }

  /** Other switches that a press of these sources begins too, each with its plain entry. */
  twinsOf(action: CheckedSwitch, sources: readonly Source[]): OwnedEntry[] {
    const twins: OwnedEntry[] = [];
    const pressed = new Set(sources.flatMap((source) => this.controlsOf(source)));
    for (const other of this.plan.actions) {
      if (other === action || other.kind !== "switch" || !canBeLiveTogether(action, other)) continue;
      const entry = other.entries.find(
        (one) =>
          one.kind === "plain" &&
          !one.waits &&
          one.of.some((source) => this.controlsOf(source).some((control) => pressed.has(control))),
      );
      if (entry !== undefined) twins.push({ action: other, entry });
    }
    return twins;
  }
}

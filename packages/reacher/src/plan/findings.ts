/** What can be wrong with a plan: ids, severities, and the error that carries them. In: nothing. Out: the words for it. */

/** `error`: cannot run. `warning`: runs, and goes wrong in practice. `hint`: worth a thought. */
export type Severity = "error" | "warning" | "hint";

/** Every finding by id, with its severity. Adding a rule begins here. */
export const FINDINGS = {
  "not-a-plan": "error",
  "missing-field": "error",
  "unknown-field": "error",
  "wrong-value": "error",
  "bad-name": "error",
  "unknown-kind": "error",
  "unknown-control": "error",
  "wrong-control": "error",
  "unknown-slot": "error",
  "unknown-word": "error",
  "unknown-mode": "error",
  "unknown-source": "error",
  "needs-circle": "error",
  "carry-hold": "error",
  "resume-hold": "error",
  "anew-either": "error",
  "no-opposite": "error",
  "flick-no-stick": "error",
  "short-after-long": "error",
  "same-member": "error",
  "same-name": "error",
  "pace-rule": "error",
  "dead-zone-full": "error",
  "curve-points": "error",
  "threshold-order": "error",
  "threshold-none": "error",
  "turn-unit": "error",
  "gaits-equal": "error",
  "name-taken": "error",
  "required-bare": "error",
  "range-order": "error",
  "missing-direction": "warning",
  "same-direction": "warning",
  "axis-would-do": "warning",
  "end-place": "warning",
  "gaits-stuck": "warning",
  "gaits-no-pace": "warning",
  "times-percent": "warning",
  "set-after-times": "warning",
  "shape-none": "warning",
  "fires-twice": "warning",
  "same-control": "warning",
  "slot-device": "warning",
  "unbound-action": "warning",
  "browser-key": "warning",
  "dead-zone-wide": "warning",
  "dead-zone-none": "warning",
  "starts-on-hold": "warning",
  "tap-window": "warning",
  "tap-and-press": "warning",
  "short-long-hole": "warning",
  "never-holds": "warning",
  "unused-mode": "warning",
  "two-seats": "warning",
  "player-nothing": "warning",
  "undoes-itself": "warning",
  "turned-twice": "warning",
  "unused-slot": "warning",
  "no-way-out": "warning",
  "way-out-fires": "warning",
  unreachable: "warning",
  "no-actions": "hint",
  "lonely-toggle": "hint",
  rollover: "hint",
  "no-key": "hint",
  "no-pad": "hint",
  "unused-control": "hint",
} as const satisfies Record<string, Severity>;

/** What a finding is about, by a name that stays: `docs/findings.md` explains each. */
export type FindingId = keyof typeof FINDINGS;

/** One thing found in a plan. */
export interface Finding {
  readonly id: FindingId;
  readonly severity: Severity;
  /** The place in the plan: `actions.kick.from.main`. Empty for the plan as a whole. */
  readonly place: string;
  /** What is wrong, as a sentence without its full stop, and the mend where it can be told. */
  readonly message: string;
}

/** Takes a finding. */
export type Report = (id: FindingId, place: string, message: string) => void;

/** Makes a finding; the severity comes from the table. */
export function finding(id: FindingId, place: string, message: string): Finding {
  return { id, severity: FINDINGS[id], place, message };
}

/** Errors that the library throws, and the text of a finding. In: findings. Out: errors whose messages say what, where and how to mend it. */
import type { Finding } from "./findings.js";

/** `actions.kick.from.main: LeftShift is no control; did you mean ShiftLeft?` */
export function findingText(found: Finding): string {
  if (typeof found !== "object" || found === null)
    throw new ReacherError("this is no finding; checkPlan gives some");
  return found.place === "" ? found.message : `${found.place}: ${found.message}`;
}

/** Thrown where something given to the library cannot be used; the message says what, where and how to mend it. */
export class ReacherError extends Error {
  override name = "ReacherError";
}

/** Thrown where a plan cannot run. */
export class PlanError extends ReacherError {
  override name = "PlanError";
  /** All errors found, in the plan's order. */
  readonly findings: readonly Finding[];

  constructor(findings: readonly Finding[]) {
    const more = findings.length > 5 ? `\n  and ${findings.length - 5} more` : "";
    super(
      findings.length === 1
        ? findingText(findings[0]!)
        : `the plan has ${findings.length} errors:\n` +
            findings
              .slice(0, 5)
              .map((found) => "  " + findingText(found))
              .join("\n") +
            more,
    );
    this.findings = findings;
  }
}

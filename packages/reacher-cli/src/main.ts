/** The command `reacher`. In: arguments. Out: text or JSON on standard output, and an exit code. */
import { Argument, Command, CommanderError, InvalidArgumentError, Option } from "commander";
import type { BuildCommandOptions } from "./commands/build.js";
import type { Shell } from "./commands/completion.js";
import type { CompareOptions } from "./commands/compare.js";
import type { DrawOptions } from "./commands/draw.js";
import type { RebindOptions } from "./commands/rebind.js";
import type { ReplayCommandOptions } from "./commands/replay.js";
import type { SchemaOptions } from "./commands/schema.js";
import type { TableOptions } from "./commands/table.js";
import type { TapsOptions } from "./commands/taps.js";
import type { TestOptions } from "./commands/test.js";
import type { TryOptions } from "./commands/try.js";
import type { TypesOptions } from "./commands/types.js";
import type { WhyOptions } from "./commands/why.js";
import { BadAnswer, UseError } from "./faults.js";
import { flush, forTerminal, note, write, writeError, writeTo, type Streams } from "./output.js";

/** The package's version; the build writes it here. */
const version = process.env["REACHER_VERSION"] ?? "0";

/** Runs the command with these arguments. Returns its exit code. */
export async function main(args: readonly string[], streams: Streams): Promise<number> {
  writeTo(streams);
  let code = 0;
  const program = commands((answer) => (code = answer));
  try {
    await program.parseAsync([...args], { from: "user" });
  } catch (error) {
    code = tell(error);
  }
  flush();
  return code;
}

/** Prints an error as one short message; a stack only where the fault is the command's own. */
function tell(error: unknown): number {
  flush();
  if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : 2;
  if (error instanceof BadAnswer) {
    note(error.message);
    return 1;
  }
  if (error instanceof UseError) {
    note(error.message);
    return 2;
  }
  throw error;
}

/** Each command is loaded when it is called: one that is not takes no time. */
function commands(done: (code: number) => void): Command {
  const program = new Command("reacher")
    .description(
      "Checks input plans, prints what controls do, and replays recorded input. In place of a plan or a trace, - reads standard input.",
    )
    .version(version)
    .exitOverride()
    .configureOutput({
      writeOut: (text) => write(forTerminal(text)),
      writeErr: (text) => writeError(forTerminal(text)),
    })
    .showHelpAfterError("(reacher --help, or reacher COMMAND --help, shows how)")
    .configureHelp({ sortSubcommands: false });
  const command = (usage: string, description: string) =>
    program.command(usage).description(description).option("--json", "print JSON, one object a line");

  command("check", "errors, warnings and hints of a plan")
    .argument("<plan>", "a plan, as JSON")
    .option("--overrides <file>", "what of a player's changes does not fit the plan")
    .action(async (plan: string, options: { json?: boolean; overrides?: string }) => {
      const { check } = await import("./commands/check.js");
      done(await check(plan, options));
    });
  command("table", "every control and what it does; every action with its controls")
    .argument("<plan>", "a plan, as JSON")
    .option("--seat <name>", "only what this seat uses")
    .option("--mode <name>", "only what is live in this mode")
    .action(async (plan: string, options: TableOptions) => {
      const { table } = await import("./commands/table.js");
      done(await table(plan, options));
    });
  command("replay", "what changed, and when, in a recorded trace")
    .argument("<plan>", "a plan, as JSON; or a report, in place of both")
    .argument("[trace]", "a trace, as JSON Lines")
    .option("--hz <n>", "steps a second", number(1, 100_000), 60)
    .option("--every <ms>", "the whole reading every so many ms, in place of changes", number(0.1, 1e9))
    .option("--action <name>", "only this action")
    .option("--overrides <file>", "with a player's changes")
    .option("--expect <file>", "compare with the rows of an earlier replay --json")
    .action(async (plan: string, trace: string | undefined, options: ReplayCommandOptions) => {
      const { replayCommand } = await import("./commands/replay.js");
      done(await replayCommand(plan, trace, options));
    });
  command("why", "why an action did or did not turn on")
    .argument("<plan>", "a plan, as JSON; or a report, in place of both")
    .argument("[trace]", "a trace, as JSON Lines")
    .requiredOption("--action <name>", "the action asked about")
    .option("--seat <name>", "of this seat; the first without it")
    .option("--at <ms>", "only what happened around this moment", number(0, 1e12))
    .action(async (plan: string, trace: string | undefined, options: WhyOptions) => {
      const { why } = await import("./commands/why.js");
      done(await why(plan, trace, options));
    });
  command("taps", "press-to-press times, and what each window for a double tap would catch")
    .argument("<traces...>", "traces, as JSON Lines")
    .option("--control <control>", "only presses of this control: KeyD, PadLeftStickRight")
    .action(async (traces: string[], options: TapsOptions) => {
      const { taps } = await import("./commands/taps.js");
      done(await taps(traces, options));
    });
  command("sticks", "rest, drift and reach of each stick, with a proposed dead zone")
    .argument("<traces...>", "traces, as JSON Lines")
    .action(async (traces: string[], options: { json?: boolean }) => {
      const { sticks } = await import("./commands/sticks.js");
      done(await sticks(traces, options));
    });
  command("draw", "a response curve of a plan; of a trace a timeline, or where a stick was")
    .argument("<file>", "a plan, as JSON, a trace, as JSON Lines, or a report")
    .requiredOption("-o, --output <file>", "where to write it: F.svg or F.png")
    .option("--action <name>", "of a plan: the curve of this action; the first with a stick without it")
    .option("--stick <stick>", "of a trace: where this stick was")
    .option("--plan <file>", "of a trace: what this plan makes of it")
    .option("--from <ms>", "of a timeline: begin here", number(0, 1e12))
    .option("--to <ms>", "of a timeline: end here", number(0, 1e12))
    .option("--dark", "for a dark page")
    .action(async (file: string, options: DrawOptions) => {
      const { draw } = await import("./commands/draw.js");
      done(await draw(file, options));
    });
  command("compare", "what changes between two plans on the same input")
    .argument("<first>", "a plan, as JSON")
    .argument("<second>", "another, as JSON; or the same, with --overrides")
    .argument("<traces...>", "traces, as JSON Lines")
    .option("--overrides <file>", "with a player's changes to the second")
    .action(async (first: string, second: string, traces: string[], options: CompareOptions) => {
      const { compare } = await import("./commands/compare.js");
      done(await compare(first, second, traces, options));
    });
  command("test", "a test that replays a report, and fails where its rows differ")
    .argument("<report>", "a report: a plan, changes and a trace in one file")
    .requiredOption("-o, --output <file>", "where to write the test")
    .addOption(
      new Option("--runner <runner>", "the test runner that it is for")
        .choices(["jest", "vitest", "node"])
        .default("jest"),
    )
    .option("--action <name>", "only the rows of this action")
    .action(async (report: string, options: TestOptions) => {
      const { testCommand } = await import("./commands/test.js");
      done(await testCommand(report, options));
    });
  command("controls", "every control by family, with its label; or those that fit a word")
    .argument("[word...]", "part of a name or a label, or what people call it: shift, Esc, mouse left")
    .action(async (words: string[], options: { json?: boolean }) => {
      const { controlsCommand } = await import("./commands/controls.js");
      done(await controlsCommand(words.length === 0 ? undefined : words.join(" "), options));
    });
  program
    .command("try")
    .description("the workbench in your browser: press, look, change a number, and see the past differently")
    .argument("<plan>", "a plan, as JSON; where there is none yet, one is begun; or a report")
    .argument("[traces...]", "traces to look at, as JSON Lines, or reports")
    .option("--port <n>", "listen there; a free port without it", number(0, 65_535))
    .option("--open", "have a browser opened")
    .action(async (plan: string, traces: string[], options: TryOptions) => {
      const { tryPlan } = await import("./commands/try.js");
      done(await tryPlan(plan, traces, options));
    });
  command("rebind", "changes one control in a player's overrides")
    .argument("<plan>", "a plan, as JSON")
    .argument("<address>", "where: kick.main, swim.main.up, surge.main.1")
    .argument("<control>", "the control that is to stand there, or none")
    .requiredOption("--overrides <file>", "the player's overrides; made where there are none yet")
    .addOption(
      new Option("--choice <choice>", "what to do where the control is used already").choices([
        "swap",
        "take",
        "both",
        "refuse",
      ]),
    )
    .action(async (plan: string, address: string, control: string, options: RebindOptions) => {
      const { rebindCommand } = await import("./commands/rebind.js");
      done(await rebindCommand(plan, address, control, options));
    });
  command("types", "TypeScript types of a plan that is written as JSON")
    .argument("<plan>", "a plan, as JSON")
    .option("-o, --output <file>", "where to write them; standard output without it")
    .option("--beside", "write game.plan.d.json.ts beside game.plan.json: the type of its import")
    .option("--check", "write nothing; exit code 1 if the file is not current")
    .action(async (plan: string, options: TypesOptions) => {
      const { types } = await import("./commands/types.js");
      done(await types(plan, options));
    });
  command("build", "a module with the plan checked ahead and only what it uses")
    .argument("<plan>", "a plan, as JSON")
    .option("-o, --output <file>", "where to write it, .ts or .js; standard output without it")
    .option("--fixed-keys", "players change nothing: smaller still")
    .option("--map", "a source map beside it: a debugger shows the rules")
    .option(
      "--calls <names>",
      "those calls of a layer that the game makes (on,setFlag,drive), or none: what it lacks stays out",
    )
    .option("--check", "write nothing; exit code 1 if the file is not current")
    .option("--watch", "make it anew at each change of the plan")
    .option("--explain", "write nothing; what goes in, by action, call and part")
    .action(async (plan: string, options: BuildCommandOptions) => {
      const { build } = await import("./commands/build.js");
      done(await build(plan, options));
    });
  command("schema", "the JSON Schema of plans, for editors; of one plan with its own names")
    .argument("[plan]", "a plan, as JSON")
    .option("--beside", "write game.plan.schema.json beside game.plan.json")
    .option("--check", "write nothing; exit code 1 if the file is not current")
    .action(async (plan: string | undefined, options: SchemaOptions) => {
      const { schema } = await import("./commands/schema.js");
      done(await schema(plan, options));
    });
  program
    .command("completion")
    .description("a script that completes commands, options and files in your shell")
    .addArgument(new Argument("<shell>", "which shell").choices(["bash", "zsh", "fish"]))
    .action(async (shell: Shell) => {
      const { completion } = await import("./commands/completion.js");
      done(await completion(shell, program));
    });
  return program;
}

function number(least: number, most: number) {
  return (text: string): number => {
    const value = Number(text);
    if (text.trim() !== "" && value >= least && value <= most) return value;
    throw new InvalidArgumentError(`It is a number from ${least} to ${most}.`);
  };
}

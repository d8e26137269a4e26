/** `reacher completion SHELL`: a script that completes commands, options and files, made of the command's own list. */
import type { Command } from "commander";
import { print } from "../output.js";

export const SHELLS = ["bash", "zsh", "fish"] as const;
export type Shell = (typeof SHELLS)[number];

/** What a shell has to know of a command. */
interface Completed {
  readonly name: string;
  readonly about: string;
  readonly options: readonly { readonly long: string; readonly about: string }[];
}

export function completion(shell: Shell, program: Command): Promise<number> {
  const commands = program.commands.map((command) => ({
    name: command.name(),
    about: command.description(),
    options: command.options.flatMap(({ long, description }) => (long ? [{ long, about: description }] : [])),
  }));
  print(SCRIPTS[shell](commands).trimEnd());
  return Promise.resolve(0);
}

const namesOf = (commands: readonly Completed[]) => commands.map(({ name }) => name).join(" ");
const longsOf = ({ options }: Completed) => options.map(({ long }) => long).join(" ");
const quoted = (text: string) => `'${text.replaceAll("'", "'\\''")}'`;

const SCRIPTS: Readonly<Record<Shell, (commands: readonly Completed[]) => string>> = {
  bash: (commands) => `# reacher completion bash >> ~/.bashrc
_reacher() {
  local word="\${COMP_WORDS[COMP_CWORD]}"
  if [ "$COMP_CWORD" -eq 1 ]; then
    COMPREPLY=($(compgen -W "${namesOf(commands)}" -- "$word"))
    return
  fi
  local options=""
  case "\${COMP_WORDS[1]}" in
${commands.map((one) => `    ${one.name}) options="${longsOf(one)}" ;;`).join("\n")}
  esac
  case "$word" in
    -*) COMPREPLY=($(compgen -W "$options" -- "$word")) ;;
    *) COMPREPLY=($(compgen -f -- "$word")) ;;
  esac
}
complete -o filenames -F _reacher reacher
`,
  zsh: (commands) => `#compdef reacher
# reacher completion zsh > ~/.zsh/completions/_reacher, in a folder of $fpath
_reacher() {
  if (( CURRENT == 2 )); then
    local -a commands=(
${commands.map(({ name, about }) => `      ${quoted(`${name}:${about.replaceAll(":", "\\:")}`)}`).join("\n")}
    )
    _describe command commands
    return
  fi
  local -a options
  case "$words[2]" in
${commands
  .map(
    ({ name, options }) =>
      `    ${name}) options=(${options.map(({ long, about }) => quoted(`${long}:${about.replaceAll(":", "\\:")}`)).join(" ")}) ;;`,
  )
  .join("\n")}
  esac
  if [[ "$PREFIX" == -* ]]; then _describe option options; else _files; fi
}
compdef _reacher reacher
`,
  fish: (commands) => `# reacher completion fish > ~/.config/fish/completions/reacher.fish
${commands
  .flatMap(({ name, about, options }) => [
    `complete -c reacher -n __fish_use_subcommand -a ${name} -d ${quoted(about)}`,
    ...options.map(
      ({ long, about }) =>
        `complete -c reacher -n '__fish_seen_subcommand_from ${name}' -l ${long.slice(2)} -d ${quoted(about)}`,
    ),
  ])
  .join("\n")}
`,
};

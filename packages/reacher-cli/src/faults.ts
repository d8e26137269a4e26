/** The errors that end a command, and how they are reported. */

/** Wrong use, or input that cannot be read: exit code 2. */
export class UseError extends Error {
  override name = "UseError";
}

/** The command ran, and the answer is bad: exit code 1. */
export class BadAnswer extends Error {
  override name = "BadAnswer";
}

/** What a failed file operation means, in plain words. */
export function fileFault(file: string, error: unknown): UseError {
  const code = (error as NodeJS.ErrnoException).code;
  const meaning: Record<string, string> = {
    ENOENT: "there is no such file",
    EISDIR: "this is a folder; name a file in it",
    EACCES: "you are not allowed to read or write it",
    ENOTDIR: "a part of this path is a file, not a folder",
    ENOSPC: "the disk is full",
    ERR_STRING_TOO_LONG: "it is too large to be read",
  };
  return new UseError(`${file}: ${meaning[code ?? ""] ?? (error as Error).message}`);
}

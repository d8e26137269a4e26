/**
 * Stores players' settings: one profile for each player, by name. In: overrides to save, and what other tabs have saved. Out:
 * the overrides of the profile in use. May change: the store, and which profile is in use.
 *
 * Whatever the store does, the game goes on: the last good settings stay in use, and each kind of fault is reported once.
 */
import { mustBeOptions, mustBeText, mustHave } from "../plan/arguments.js";
import { ReacherError } from "../plan/errors.js";
import { parseOverrides, type Overrides } from "../plan/players/overrides.js";
import { resolvePlan } from "../plan/resolve.js";
import type { Plan } from "../plan/types.js";
import { bare } from "./editor.js";
import type { TextStore } from "./store.js";

const LONGEST_NAME = 60;
/** Where unreadable settings are kept. */
const ASIDE = " (unreadable";

/** A fault of the store. It is reported once, until the same operation has worked again. */
export interface ProfileFault {
  /** `refused`: the store does not answer, or is full. `unreadable`: what it holds are no overrides. */
  readonly what: "refused" | "unreadable";
  /** A message for the player: what happened, what still works, and what to do. */
  readonly message: string;
  readonly cause: unknown;
}

/** How profiles are opened. */
export interface ProfileOptions {
  readonly store: TextStore;
  /** The plan whose overrides these are. */
  readonly plan: Plan;
  /** The profile to begin with. @default "player" */
  readonly profile?: string;
  /** Called once for each kind of fault: a store that refuses, a file that cannot be read. Nothing is lost by it. */
  readonly onFault?: (fault: ProfileFault) => void;
  /** Called when another tab or player has changed the profile in use. */
  readonly onChange?: (overrides: Overrides) => void;
}

/** The profiles of a game's players. */
export interface Profiles {
  /** The name of the profile in use, and its overrides as last loaded or saved. */
  readonly profile: string;
  readonly overrides: Overrides;
  /** All profiles that there are, with the one in use. */
  names(): Promise<readonly string[]>;
  /**
   * Saves the profile in use. What another tab has changed meanwhile stays, where this player did not change the same. Gives the
   * overrides that are in use after it: those, also where the store refused them.
   */
  save(overrides: Overrides): Promise<Overrides>;
  /** Uses another profile; a new one begins without changes. @throws ReacherError for a name that is none */
  use(profile: string): Promise<Overrides>;
  /** Removes a profile. The one in use starts over. */
  remove(profile: string): Promise<void>;
  /** No more word of other tabs. */
  close(): void;
}

/** Opens the profiles of a game, and loads one. It never rejects for what the store does. */
export async function openProfiles(options: ProfileOptions): Promise<Profiles> {
  mustBeOptions(options);
  mustHave(options?.store, ["read", "change", "names"], "store; give memoryStore, browserStore or fileStore");
  resolvePlan(options.plan);
  if (options.profile !== undefined) mustBeText(options.profile, "profile's name");

  const profiles = new KeptProfiles(options);
  await profiles.use(options.profile ?? "player");
  return profiles;
}

/** A player's overrides as the text of a file. */
export function overridesText(overrides: Overrides): string {
  parseOverrides(overrides);

  return `${JSON.stringify(overrides, null, 2)}\n`;
}

/** Reads such a text. @throws ReacherError telling where it is no JSON, or what makes it no overrides */
export function readOverrides(text: string): Overrides {
  mustBeText(text, "text of overrides");

  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch (error) {
    throw new ReacherError(`this is no JSON: ${error instanceof Error ? error.message : String(error)}`);
  }
  return parseOverrides(raw);
}

class KeptProfiles implements Profiles {
  profile = "";
  overrides: Overrides;
  /** What the store holds of it, as far as is known. */
  private kept: Overrides;
  private readonly told = new Set<ProfileFault["what"]>();
  private readonly unwatch: (() => void) | undefined;
  /** Saves and loads one after another. */
  private last: Promise<unknown> = Promise.resolve();

  constructor(private readonly options: ProfileOptions) {
    this.overrides = this.kept = bare(options.plan);
    this.unwatch = options.store.watch?.((name) => {
      if (name === this.profile) void this.inTurn(() => this.hear());
    });
  }

  async names(): Promise<readonly string[]> {
    const names = await this.asked(() => this.options.store.names(), [] as readonly string[]);
    return [...new Set([...names.filter((name) => !name.includes(ASIDE)), this.profile])].sort();
  }

  save(overrides: Overrides): Promise<Overrides> {
    parseOverrides(overrides);
    const { profile } = this;
    this.overrides = overrides;
    return this.inTurn(async () => {
      let merged = overrides;
      let unreadable: string | undefined;
      const saved = await this.asked(async () => {
        await this.options.store.change(profile, (text) => {
          const theirs = this.readable(text);
          unreadable = theirs === undefined ? text : undefined;
          merged = profile === this.profile ? mergeOver(this.kept, overrides, theirs) : overrides;
          return overridesText(merged);
        });
        return true;
      }, false);
      if (!saved) return overrides;
      if (unreadable !== undefined) await this.keepAside(profile, unreadable);
      if (profile === this.profile) this.overrides = this.kept = merged;
      return merged;
    });
  }

  use(profile: string): Promise<Overrides> {
    mustBeText(profile, "profile's name");
    const name = profile.trim();
    if (name === "" || name.length > LONGEST_NAME || name.includes(ASIDE))
      throw new ReacherError(`a profile's name has 1 to ${LONGEST_NAME} characters`);
    return this.inTurn(async () => {
      const text = await this.asked(() => this.options.store.read(name), undefined);
      this.profile = name;
      this.overrides = this.kept =
        text === undefined ? bare(this.options.plan) : await this.readOrKeepAside(name, text);
      return this.overrides;
    });
  }

  remove(profile: string): Promise<void> {
    mustBeText(profile, "profile's name");
    return this.inTurn(async () => {
      await this.asked(() => this.options.store.change(profile, () => undefined), undefined);
      if (profile === this.profile) this.overrides = this.kept = bare(this.options.plan);
    });
  }

  close(): void {
    this.unwatch?.();
  }

  private inTurn<T>(work: () => Promise<T>): Promise<T> {
    const next = this.last.then(work);
    this.last = next.catch(() => undefined);
    return next;
  }

  /** Another tab has saved this profile. */
  private async hear(): Promise<void> {
    const text = await this.asked(() => this.options.store.read(this.profile), undefined);
    const theirs = this.readable(text);
    if (theirs !== undefined) this.kept = theirs;
    if (theirs === undefined || JSON.stringify(theirs) === JSON.stringify(this.overrides)) return;
    this.overrides = theirs;
    this.options.onChange?.(theirs);
  }

  private readable(text: string | undefined): Overrides | undefined {
    if (text === undefined) return undefined;
    try {
      return readOverrides(text);
    } catch {
      return undefined;
    }
  }

  /** Settings that cannot be read are kept under another name, and the plan's own apply. */
  private async readOrKeepAside(name: string, text: string): Promise<Overrides> {
    try {
      const read = readOverrides(text);
      this.told.delete("unreadable");
      return read;
    } catch (error) {
      const aside = await this.keepAside(name, text);
      await this.asked(
        () => this.options.store.change(name, (now) => (now === text ? undefined : now)),
        undefined,
      );
      const why = error instanceof Error ? error.message : String(error);
      this.tell({
        what: "unreadable",
        message: `The settings of ${name} cannot be read (${why}). They are kept as ${JSON.stringify(aside)}; the game's own apply.`,
        cause: error,
      });
      return bare(this.options.plan);
    }
  }

  /** Keeps a text under a name that is free. */
  private async keepAside(name: string, text: string): Promise<string> {
    const { store } = this.options;
    let number = 1;
    while ((await this.asked(() => store.read(asideName(name, number)), undefined)) !== undefined) number++;
    const aside = asideName(name, number);
    // Whatever stands there all the same is somebody's.
    await this.asked(() => store.change(aside, (now) => now ?? text), undefined);
    return aside;
  }

  /** What the store says, or `otherwise` where it refuses, which is told once. */
  private async asked<T>(ask: () => Promise<T>, otherwise: T): Promise<T> {
    try {
      const answer = await ask();
      this.told.delete("refused");
      return answer;
    } catch (error) {
      const why = error instanceof Error ? error.message : String(error);
      this.tell({
        what: "refused",
        message: `Settings cannot be kept here (${why}). They apply until the game is closed; save them as a file to keep them.`,
        cause: error,
      });
      return otherwise;
    }
  }

  private tell(fault: ProfileFault): void {
    if (this.told.has(fault.what)) return;
    this.told.add(fault.what);
    this.options.onFault?.(fault);
  }
}

function asideName(name: string, number: number): string {
  return `${name}${ASIDE}${number === 1 ? "" : ` ${number}`})`;
}

/** What this player changed since `base`, over what is kept now. */
function mergeOver(base: Overrides, mine: Overrides, theirs: Overrides | undefined): Overrides {
  if (theirs === undefined) return mine;
  const part = (name: "controls" | "settings") => {
    const [before, after, kept] = [base[name] ?? {}, mine[name] ?? {}, theirs[name] ?? {}];
    const same = (one: unknown, other: unknown) => JSON.stringify(one) === JSON.stringify(other);
    const left = Object.entries(kept).filter(
      ([at]) => same(before[at], after[at]) && (Object.hasOwn(after, at) || !Object.hasOwn(before, at)),
    );
    const changed = Object.entries(after).filter(
      ([at, value]) => !same(before[at], value) || (Object.hasOwn(kept, at) && same(kept[at], value)),
    );
    return Object.fromEntries([...left, ...changed]);
  };
  return { ...mine, controls: part("controls"), settings: part("settings") };
}

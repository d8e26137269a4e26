/** What to press, for each diver, on whatever that diver used last. */
import { prompt } from "reacher/rebind";
import { ControlSign } from "./ControlSign";
import type { Player } from "./player";
import type { Session } from "./session";

const SHOWN = [
  "swim",
  "kick",
  "tuck",
  "depth",
  "aim",
  "lamp",
  "surge",
  "snip",
  "grab",
  "haul",
  "cast",
  "pause",
] as const;

export function Prompts({ session, player }: { session: Session; player: Player }) {
  return (
    <ul
      className="keys"
      aria-label={`What the ${player.name} diver presses`}
      data-testid={`prompts-${player.name}`}
    >
      {session.two && <li className={player.name}>{player.name}</li>}
      {SHOWN.map((action) => {
        const { parts, spoken, text } = prompt(player.seat, action, session.labels.label);
        return (
          text !== "" && (
            <li key={action}>
              <span className="unseen">{spoken}</span>
              <span aria-hidden="true">
                {session.labelOf(action)} <ControlSign parts={parts} />
              </span>
            </li>
          )
        );
      })}
    </ul>
  );
}

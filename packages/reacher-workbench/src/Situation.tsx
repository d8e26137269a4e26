/** What a game would set: modes, flags, numbers, mutes; and which seat is shown. Each is a click. */
import { memo, useState } from "react";
import { Input, NumberField, ToggleButton } from "react-aria-components";
import type { Looked, Session } from "./session";
import { useSession } from "./useSession";

/** The reason for mutes made here. */
const REASON = "workbench";

const SITUATION: Looked = ({ played, plan, seat: name }) => {
  const { modes, flags, mutes } = played.input.seat(name);
  const numbers = Object.keys(plan.numbers ?? {}).map((number) => played.input.seat(name).number(number));
  const told = [modes, flags, Object.keys(mutes), numbers, plan.modes, plan.flags, plan.numbers];
  return [name, JSON.stringify([told, Object.keys(plan.actions)])];
};

export function Situation({ session }: { session: Session }) {
  useSession(session, SITUATION);
  const { input } = session.played;
  const { plan, seat: name } = session;
  const seat = input.seat(name);
  const [isMuting, showMutes] = useState(false);
  const modes = Object.keys(plan.modes ?? {});
  const numbers = Object.keys(plan.numbers ?? {});
  const flags = Object.keys(plan.flags ?? {});
  const muted = Object.keys(seat.mutes);
  return (
    <section className="situation" aria-label="Situation">
      {input.seats.length > 1 && (
        <Row title="Seat">
          {input.seats.map((one) => (
            <ToggleButton key={one} isSelected={one === name} onChange={() => session.setSeat(one)}>
              {one}
            </ToggleButton>
          ))}
        </Row>
      )}
      {modes.length > 0 && (
        <Row title="Modes">
          {modes.map((mode) => (
            <ToggleButton
              key={mode}
              isSelected={seat.modes.includes(mode)}
              onChange={(on) =>
                session.situation(on ? { enter: mode, seat: name } : { leave: mode, seat: name })
              }
            >
              {mode}
            </ToggleButton>
          ))}
        </Row>
      )}
      {flags.length > 0 && (
        <Row title="Flags">
          {flags.map((flag) => (
            <ToggleButton
              key={flag}
              isSelected={seat.flags[flag] === true}
              onChange={(value) => session.situation({ flag, value, seat: name })}
            >
              {flag}
            </ToggleButton>
          ))}
        </Row>
      )}
      {numbers.length > 0 && (
        <Row title="Told">
          {numbers.map((number) => (
            <ToldNumber
              key={number}
              number={number}
              value={seat.number(number)}
              seat={name}
              session={session}
            />
          ))}
        </Row>
      )}
      <Row title="Mutes">
        {(isMuting ? Object.keys(plan.actions) : muted).map((action) => (
          <ToggleButton
            key={action}
            isSelected={muted.includes(action)}
            onChange={(on) =>
              session.situation(
                on
                  ? { mute: action, reason: REASON, seat: name }
                  : { unmute: action, reason: REASON, seat: name },
              )
            }
          >
            {action}
          </ToggleButton>
        ))}
        <ToggleButton className="react-aria-ToggleButton quiet" isSelected={isMuting} onChange={showMutes}>
          {isMuting ? "done" : muted.length > 0 ? "more" : "none: choose"}
        </ToggleButton>
      </Row>
    </section>
  );
}

interface ToldNumberProps {
  readonly number: string;
  readonly value: number;
  readonly seat: string;
  readonly session: Session;
}

const ToldNumber = memo(function ToldNumber({ number, value, seat, session }: ToldNumberProps) {
  return (
    <NumberField
      aria-label={`${number}, as the game would tell it`}
      value={value}
      onChange={(value) => Number.isFinite(value) && session.situation({ number, value, seat })}
    >
      {number} <Input />
    </NumberField>
  );
});

function Row({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <div className="row" role="group" aria-label={title}>
      <span>{title}</span>
      <div>{children}</div>
    </div>
  );
}

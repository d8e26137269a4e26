/** The developer's panel: keys held, the movement, what is on and since when, the last changes. */
import {
  Button,
  Label,
  Meter,
  Radio,
  RadioGroup,
  Slider,
  SliderOutput,
  SliderThumb,
  SliderTrack,
  ToggleButton,
} from "react-aria-components";
import type { Style } from "reacher";
import { download } from "./download";
import { Dial } from "./Dial";
import { PadSetup } from "./PadSetup";
import { twoDecimals } from "./player";
import type { KelplinePlan } from "../plan/kelpline.plan.json";
import type { Session } from "./session";

const STYLES: readonly { style: Style; label: string }[] = [
  { style: "hold", label: "Hold" },
  { style: "toggle", label: "Toggle" },
  { style: "either", label: "Either" },
];

export function Panel({
  session,
  onSettings,
  onDone,
}: {
  session: Session;
  onSettings: () => void;
  onDone: () => void;
}) {
  const player = session.shown;
  const { swim, depth, kick, tuck, surge, snip, haul, lamp } = player.seat.now;
  const { diver } = player;
  const switches = [
    { name: "kick", reading: kick },
    { name: "tuck", reading: tuck },
    { name: "surge", reading: surge },
    { name: "snip", reading: snip },
    { name: "haul", reading: haul },
    { name: "lamp", reading: lamp },
  ];
  return (
    <aside aria-label="What the input layer does">
      {session.two && (
        <section className="players" aria-label="Players shown">
          {session.players.map((one) => (
            <ToggleButton
              key={one.name}
              className={`react-aria-Button player ${one.name}`}
              isSelected={one === player}
              onChange={() => {
                session.shown = one;
                onDone();
              }}
            >
              {one.name} <span className="by">{deviceOf(one)}</span>
            </ToggleButton>
          ))}
        </section>
      )}
      <section>
        <h2>Held</h2>
        <p className="held" data-testid="held">
          {session.held.size === 0 ? (
            <span className="none">nothing</span>
          ) : (
            [...session.held].map((name) => <kbd key={name}>{session.labels.label(name)}</kbd>)
          )}
        </p>
      </section>
      <section className="movement">
        <h2>Swim</h2>
        <Dial x={swim.x} y={swim.y} faceX={swim.facing.x} faceY={swim.facing.y} />
        <dl>
          <dt>vector</dt>
          <dd data-testid="vector">
            {twoDecimals(swim.x)}, {twoDecimals(swim.y)}
          </dd>
          <dt>facing</dt>
          <dd data-testid="facing">
            {twoDecimals(swim.facing.x)}, {twoDecimals(swim.facing.y)}
          </dd>
          <dt>pace</dt>
          <dd data-testid="pace">{twoDecimals(swim.pace)} m/s</dd>
          <dt>gait</dt>
          <dd data-testid="gait">{swim.gait ?? "at rest"}</dd>
          <dt>depth</dt>
          <dd data-testid="depth">{twoDecimals(depth.value)}</dd>
          <dt>at</dt>
          <dd data-testid="place">
            {twoDecimals(diver.x)}, {twoDecimals(diver.y)} m
          </dd>
        </dl>
        <Slider
          className="slider pace"
          value={player.seat.number("easy")}
          minValue={1.2}
          maxValue={4}
          step={0.1}
          onChange={(value) => player.seat.setNumber("easy", value)}
        >
          <Label>Easy pace</Label>
          <SliderOutput>{({ state }) => `${state.getThumbValue(0).toFixed(1)} m/s`}</SliderOutput>
          <SliderTrack className="track">
            <SliderThumb className="thumb" />
          </SliderTrack>
        </Slider>
      </section>
      <section>
        <h2>Switches</h2>
        <table>
          <tbody>
            {switches.map(({ name, reading }) => (
              <tr key={name} data-on={reading.on} data-testid={name}>
                <th scope="row">{name}</th>
                <td>{reading.on ? "on" : "off"}</td>
                <td>
                  {reading.on
                    ? `for ${(reading.onMs / 1000).toFixed(1)} s`
                    : reading.progress > 0
                      ? `${Math.round(reading.progress * 100)} %`
                      : ""}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <RadioGroup
          className="styles"
          orientation="horizontal"
          value={styleOf(player)}
          onChange={(style) => player.settings.editor.set("kick.style", style === "hold" ? undefined : style)}
        >
          <Label>Kick by</Label>
          {STYLES.map(({ style, label }) => (
            <Radio key={style} value={style}>
              {label}
            </Radio>
          ))}
        </RadioGroup>
      </section>
      <section>
        <h2>Air</h2>
        <Meter value={diver.air * 100} aria-label="Air" className="air">
          {({ percentage }) => <div style={{ width: `${percentage}%` }} />}
        </Meter>
        <p className="tally" data-testid="tally">
          {counted(diver.snips, "snip")} · {counted(diver.grabs, "grab")} · {player.chosen} chosen
        </p>
      </section>
      <section className="changes">
        <h2>Last changes</h2>
        <p className="why" data-testid="why">
          {player.whyNot !== "" && (
            <>
              <b>Why not?</b> {player.whyNot}
            </>
          )}
        </p>
        <ol data-testid="changes">
          {player.changes.map(({ id, t, action, text }) => (
            <li key={id}>
              <time>{session.seconds(t).toFixed(3)} s</time> <b>{action}</b> {text}
            </li>
          ))}
        </ol>
      </section>
      <div className="actions">
        <Button
          className="react-aria-Button quiet"
          onPress={() => {
            player.toggleMenu();
            onDone();
          }}
        >
          {player.menu ? "Close menu" : "Open menu"}
        </Button>
        <Button
          className="react-aria-Button quiet"
          onPress={() => {
            session.setTwo(!session.two);
            onDone();
          }}
        >
          {session.two ? "Teal leaves" : "Teal joins"}
        </Button>
        <Button className="react-aria-Button quiet" onPress={onSettings}>
          Settings
        </Button>
        <PadSetup layouts={session.layouts} onDone={onDone} />
        <Button
          onPress={() => {
            download("kelpline.report.json", session.report(), "application/json");
            onDone();
          }}
        >
          Save 30 s
        </Button>
      </div>
    </aside>
  );
}

/** How a press kicks, by the player's own settings. */
function styleOf({ settings }: Session["players"][number]): Style {
  const { kick } = settings.editor.plan.actions as KelplinePlan["actions"];
  return kick.style ?? "hold";
}

/** What a player uses, in a word. */
function deviceOf({ seat }: Session["players"][number]): string {
  if (seat.padLost) return "pad lost";
  return seat.pad === null ? "keys" : `pad ${seat.pad + 1}`;
}

/** `1 snip`, `2 snips`. */
function counted(count: number, what: string): string {
  return `${count} ${what}${count === 1 ? "" : "s"}`;
}

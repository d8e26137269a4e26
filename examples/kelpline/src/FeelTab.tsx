/** How the controls feel: styles, windows, zones, each within what the plan allows; the live stick; the tap test. */
import { useState } from "react";
import {
  Button,
  Label,
  Radio,
  RadioGroup,
  Slider,
  SliderOutput,
  SliderThumb,
  SliderTrack,
} from "react-aria-components";
import { settingsOf, settingValue, type Setting } from "reacher/rebind";
import { LiveStick } from "./LiveStick";
import type { Session } from "./session";
import { TapTestDialog } from "./TapTestDialog";

export function FeelTab({ session }: { session: Session }) {
  const [testing, setTesting] = useState(false);
  const { editor } = session.shown.settings;
  const settings = settingsOf(session.plan, editor.overrides).filter(
    (setting) => setting.kind === "number" || setting.options.length > 1,
  );
  const groups = [...new Set(settings.map(({ label }) => label))];
  return (
    <div className="scroll" tabIndex={-1}>
      <div className="feel">
        {groups.map((group) => (
          <section key={group} aria-label={group === "" ? "Everything" : group}>
            <h3>{group === "" ? "Everything" : group}</h3>
            {settings
              .filter(({ label }) => label === group)
              .map((setting) => (
                <OneSetting
                  key={setting.address}
                  setting={setting}
                  onChange={(value) => editor.set(setting.address, value)}
                />
              ))}
            {group === "Surge" && (
              <Button className="react-aria-Button quiet" onPress={() => setTesting(true)}>
                Measure my double tap
              </Button>
            )}
            {group === "Swim" && <LiveStick session={session} />}
          </section>
        ))}
      </div>
      {testing && <TapTestDialog session={session} onClose={() => setTesting(false)} />}
    </div>
  );
}

function OneSetting({ setting, onChange }: { setting: Setting; onChange: (value: unknown) => void }) {
  if (setting.kind === "choice") {
    return (
      <RadioGroup
        className="styles"
        orientation="horizontal"
        value={setting.value}
        onChange={(option) =>
          onChange(option === setting.plan ? undefined : settingValue(setting.address, option))
        }
      >
        <Label>{setting.about}</Label>
        {setting.options.map((option) => (
          <Radio key={option} value={option}>
            {option}
          </Radio>
        ))}
      </RadioGroup>
    );
  }
  const [least, most] = setting.range;
  return (
    <Slider
      className="slider"
      value={setting.value}
      minValue={least}
      maxValue={most}
      step={setting.unit === "ms" ? 10 : 0.01}
      onChange={(value) => onChange(value === setting.plan ? undefined : value)}
      formatOptions={setting.unit === "share" ? { style: "percent" } : { maximumFractionDigits: 2 }}
    >
      <Label>{setting.about}</Label>
      <SliderOutput>
        {({ state }) =>
          (setting.unit === "times" ? "× " : "") +
          state.getThumbValueLabel(0) +
          (setting.unit === "ms" ? " ms" : "")
        }
      </SliderOutput>
      <SliderTrack className="track">
        <SliderThumb className="thumb" />
      </SliderTrack>
    </Slider>
  );
}

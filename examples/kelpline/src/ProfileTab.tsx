/** Whose settings these are: profiles, a file to take along, back to the design. */
import { useState } from "react";
import { Button, FileTrigger, Form, Input, Label, Radio, RadioGroup, TextField } from "react-aria-components";
import { overridesText, readOverrides } from "reacher/rebind";
import { download } from "./download";
import type { Session } from "./session";

export function ProfileTab({ session }: { session: Session }) {
  const { settings } = session.shown;
  const { editor } = settings;
  const [name, setName] = useState("");
  const [told, setTold] = useState("");
  const take = async (file: File | undefined) => {
    if (file === undefined) return;
    try {
      const faults = editor.replace(readOverrides(await file.text()));
      setTold(
        faults.length === 0
          ? `${file.name} applies.`
          : `${file.name} applies but for ${faults.map(({ place, message }) => `${place}: ${message}`).join("; ")}.`,
      );
    } catch (error) {
      setTold(
        `${file.name}: ${error instanceof Error ? error.message : String(error)}. Nothing was changed.`,
      );
    }
  };
  return (
    <div className="profile scroll" tabIndex={-1}>
      <section>
        <h3>Profile of the {session.shown.name} diver</h3>
        <RadioGroup
          className="styles"
          aria-label="Profile in use"
          value={settings.profile}
          onChange={(profile) => void settings.use(profile)}
        >
          {settings.names.map((name) => (
            <Radio key={name} value={name}>
              {name}
            </Radio>
          ))}
        </RadioGroup>
        <Form
          className="row"
          onSubmit={(event) => {
            event.preventDefault();
            if (name.trim() === "") return;
            void settings.use(name.trim()).catch((error: Error) => setTold(`${error.message}.`));
            setName("");
          }}
        >
          <TextField value={name} onChange={setName} maxLength={60}>
            <Label>New profile</Label>
            <Input placeholder="a name" />
          </TextField>
          <Button type="submit">Create it</Button>
          {settings.profile !== session.shown.name && (
            <Button
              className="react-aria-Button quiet"
              onPress={() => void settings.remove(settings.profile)}
            >
              Remove {settings.profile}
            </Button>
          )}
        </Form>
      </section>
      <section>
        <h3>Take it along</h3>
        <div className="row">
          <Button
            onPress={() =>
              download("kelpline.overrides.json", overridesText(editor.overrides), "application/json")
            }
          >
            Save as a file
          </Button>
          <FileTrigger acceptedFileTypes={["application/json"]} onSelect={(files) => void take(files?.[0])}>
            <Button className="react-aria-Button quiet">Load a file</Button>
          </FileTrigger>
        </div>
        <p className="note" role="status" data-testid="told">
          {told}
        </p>
      </section>
      {editor.faults.length > 0 && (
        <section>
          <h3>What does not fit this version of the game</h3>
          <ul>
            {editor.faults.map(({ place, message }) => (
              <li key={place}>
                {place}: {message}
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}

/** A new action by a form: a name, a kind, and the key pressed. */
import { useState } from "react";
import {
  Button,
  Dialog,
  DialogTrigger,
  FieldError,
  Heading,
  Input,
  Label,
  Modal,
  ModalOverlay,
  Radio,
  RadioGroup,
  TextField,
} from "react-aria-components";
import { findControl } from "reacher";
import { withValue } from "./plan/planText";
import type { Session } from "./session";

type Kind = "switch" | "axis" | "vector";
/** What each kind wants pressed, in this order. */
const ASKED: Readonly<Record<Kind, readonly string[]>> = {
  switch: [""],
  axis: ["minus", "plus"],
  vector: ["up", "left", "down", "right"],
};

export function NewAction({ session }: { session: Session }) {
  return (
    <DialogTrigger>
      <Button isDisabled={!session.isPlaying}>New action</Button>
      <ModalOverlay isDismissable className="overlay">
        <Modal className="modal">
          <Dialog>{({ close }) => <Form session={session} close={close} />}</Dialog>
        </Modal>
      </ModalOverlay>
    </DialogTrigger>
  );
}

function Form({ session, close }: { session: Session; close: () => void }) {
  const [name, setName] = useState("");
  const [kind, setKind] = useState<Kind>("switch");
  const [pressed, press] = useState<readonly string[]>([]);
  const asked = ASKED[kind];
  const missing = asked.slice(pressed.length);
  const fault = faultOf(name, Object.keys(session.plan.actions));
  const add = () => {
    const slot = Object.keys(session.plan.slots ?? {})[0] ?? "main";
    const from =
      kind === "switch" ? pressed[0] : Object.fromEntries(asked.map((end, n) => [end, pressed[n]]));
    session.setText(withValue(session.text, ["actions", name], { kind, from: { [slot]: from } }));
    session.say(`${name} plays; Keep or Back`);
    close();
  };
  return (
    <>
      <Heading slot="title">New action</Heading>
      <TextField value={name} onChange={setName} isInvalid={name !== "" && fault !== undefined} autoFocus>
        <Label>Name</Label>
        <Input placeholder="kick" />
        <FieldError>{fault}</FieldError>
      </TextField>
      <RadioGroup
        value={kind}
        onChange={(to) => {
          setKind(to as Kind);
          press([]);
        }}
      >
        <Label>Kind</Label>
        <Radio value="switch">switch: on or off</Radio>
        <Radio value="axis">axis: one number</Radio>
        <Radio value="vector">vector: a direction</Radio>
      </RadioGroup>
      <Button
        className="react-aria-Button catch"
        onKeyDown={({ nativeEvent }) => {
          const { code } = nativeEvent as KeyboardEvent;
          // These work the form.
          if (missing.length === 0 || code === "Tab" || code === "Escape" || findControl(code) === undefined)
            return;
          nativeEvent.preventDefault();
          press([...pressed, code]);
        }}
      >
        {missing.length > 0
          ? `Focus here and press the key${missing[0] === "" ? "" : ` for ${missing[0]}`}`
          : pressed.join(", ")}
      </Button>
      <div className="buttons">
        <Button isDisabled={pressed.length === 0} onPress={() => press([])}>
          Press again
        </Button>
        <Button
          className="react-aria-Button main"
          isDisabled={fault !== undefined || missing.length > 0}
          onPress={add}
        >
          Add {name}
        </Button>
        <Button onPress={close}>Cancel</Button>
      </div>
    </>
  );
}

function faultOf(name: string, taken: readonly string[]): string | undefined {
  if (name === "") return "An action needs a name";
  if (taken.includes(name)) return `The plan has a ${name} already`;
  return /^[A-Za-z][A-Za-z0-9_]*$/.test(name) ? undefined : "Letters, digits and _, beginning with a letter";
}

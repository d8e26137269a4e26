/** A line to type in: what is typed here moves nobody. */
import { useState } from "react";
import { Button, Form, Input, Label, TextField } from "react-aria-components";

export function Chat({ onDone }: { onDone: () => void }) {
  const [text, setText] = useState("");
  const [said, setSaid] = useState<readonly string[]>([]);
  return (
    <Form
      className="chat"
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim() !== "") setSaid([...said, text.trim()].slice(-2));
        setText("");
        onDone();
      }}
    >
      <ul aria-label="Said" aria-live="polite">
        {said.map((line, n) => (
          <li key={n}>{line}</li>
        ))}
      </ul>
      <TextField
        value={text}
        onChange={setText}
        maxLength={120}
        onKeyDown={(event) => event.key === "Escape" && onDone()}
      >
        <Label>To the boat</Label>
        <Input placeholder="type here: no diver moves" />
      </TextField>
      <Button type="submit">Say</Button>
    </Form>
  );
}

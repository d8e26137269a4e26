/** What to press, drawn: keys as caps, the pad's controls as signs. */
import { padSign, type WordPart } from "reacher/rebind";

export function ControlSign({ parts }: { parts: readonly WordPart[] }) {
  return (
    <span className="sign">
      {parts.map((part, n) =>
        typeof part === "string" ? <span key={n}>{part}</span> : <One key={n} {...part} />,
      )}
    </span>
  );
}

function One({ control, label }: { control: string; label: string }) {
  const svg = padSign(control);
  // The drawing is the library's own and holds no text from outside.
  return svg === undefined ? (
    <kbd>{label}</kbd>
  ) : (
    <span className="pad-sign" title={label} dangerouslySetInnerHTML={{ __html: svg }} />
  );
}

/** What was played, as a trace: saved beside the plan, loaded, stepped through. */
import { Button, FileTrigger } from "react-aria-components";
import type { TraceEntry } from "reacher/trace";
import { LIVE_MS, type Looked, type Session } from "./session";
import { useSession } from "./useSession";

const RECORDED: Looked = ({ traces, source, now }) => [traces, source, now.skipped.join()];

export function RecordTab({ session }: { session: Session }) {
  useSession(session, RECORDED);
  const { traces, source } = session;
  return (
    <div className="record">
      <p>
        Whatever is pressed is recorded, ten minutes at most. A trace replays to the same changes: reacher
        replay PLAN TRACE.
      </p>
      <div className="buttons">
        <Button onPress={() => void session.record(LIVE_MS)}>Save the last 30 s</Button>
        <Button onPress={() => void session.record()}>Save all</Button>
        <FileTrigger
          acceptedFileTypes={[".jsonl", ".json"]}
          allowsMultiple
          onSelect={(files) => [...(files ?? [])].forEach((file) => void session.load(file))}
        >
          <Button>Load a trace</Button>
        </FileTrigger>
      </div>
      <p>A trace or a report can be dropped on the page as well.</p>
      <ul aria-label="Traces">
        {traces.map(({ name, entries }) => (
          <li key={name}>
            <Button
              aria-pressed={source.kind === "trace" && source.name === name}
              onPress={() => session.show({ kind: "trace", name })}
            >
              {name}, {lengthOf(entries).toFixed(1)} s
            </Button>
          </li>
        ))}
        {traces.length === 0 && <li>No trace is loaded.</li>}
      </ul>
      {session.now.skipped.length > 0 && <p>This plan has no use for: {session.now.skipped.join(", ")}.</p>}
    </div>
  );
}

/** How long it lasts, in seconds: a report begins at a moment of its own. */
function lengthOf(entries: readonly TraceEntry[]): number {
  const [first] = entries;
  const begin = first !== undefined && "state" in first ? first.t : 0;
  return ((entries.at(-1)?.t ?? 0) - begin) / 1000;
}

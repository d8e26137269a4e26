/** The page: what is played above, what was played below, and the plan beside it. */
import { useEffect } from "react";
import { Button, Tab, TabList, TabPanel, Tabs } from "react-aria-components";
import { ConflictDialog } from "./ConflictDialog";
import { NumbersTab } from "./NumbersTab";
import { Readings } from "./Readings";
import { RecordTab } from "./RecordTab";
import type { Looked, Session } from "./session";
import { Situation } from "./Situation";
import { Stage } from "./Stage";
import { TextTab } from "./TextTab";
import { TimelineView } from "./TimelineView";
import { useDrops } from "./useDrops";
import { useSession } from "./useSession";

/** A key that few games use, and no browser needs here. */
const FLIP_KEY = "F8";

export function App({ session }: { session: Session }) {
  useDrops(session);
  useEffect(() => {
    let frame = requestAnimationFrame(function next(now) {
      frame = requestAnimationFrame(next);
      session.frame(Math.max(now, performance.now()));
    });
    const hear = (event: KeyboardEvent) => {
      if (event.code === FLIP_KEY) session.flip();
      else if ((event.ctrlKey || event.metaKey) && event.code === "KeyS") void session.save();
      else return;
      event.preventDefault();
    };
    addEventListener("keydown", hear);
    return () => {
      cancelAnimationFrame(frame);
      removeEventListener("keydown", hear);
    };
  }, [session]);
  return (
    <div className="page">
      <Header session={session} />
      <main>
        <div className="played">
          <Stage session={session} />
          <div className="beside">
            <Situation session={session} />
            <Readings session={session} />
          </div>
        </div>
        <Tabs className="plan" defaultSelectedKey="numbers">
          <TabList aria-label="The plan">
            <Tab id="numbers">Numbers</Tab>
            <Tab id="text">Text</Tab>
            <Tab id="record">Record</Tab>
          </TabList>
          <TabPanel id="numbers">
            <NumbersTab session={session} />
          </TabPanel>
          <TabPanel id="text">
            <TextTab session={session} />
          </TabPanel>
          <TabPanel id="record">
            <RecordTab session={session} />
          </TabPanel>
        </Tabs>
        <TimelineView session={session} />
      </main>
      <Conflict session={session} />
    </div>
  );
}

const CONFLICT: Looked = ({ conflict }) => [conflict];

function Conflict({ session }: { session: Session }) {
  useSession(session, CONFLICT);
  return session.conflict !== undefined && <ConflictDialog session={session} />;
}

const HEADED: Looked = ({ isChanged, isSaved, isPlaying, hasPlan, canUndo, side, message, read }) => [
  isChanged,
  isSaved,
  isPlaying,
  hasPlan,
  canUndo,
  side,
  message,
  read.findings.length,
];

function Header({ session }: { session: Session }) {
  useSession(session, HEADED);
  const { isChanged, isSaved, isPlaying, canUndo, side } = session;
  const errors = session.read.findings.filter(({ severity }) => severity === "error").length;
  return (
    <header>
      <h1>{session.file}</h1>
      <span className={isPlaying ? "state" : "state bad"} data-testid="state">
        {!isPlaying
          ? `${errors} ${errors === 1 ? "error" : "errors"}; ${session.hasPlan ? "the last plan that could run plays on" : "nothing plays until they are mended"}`
          : isSaved
            ? "Saved"
            : isChanged
              ? "Changed, not kept"
              : "Kept, not saved"}
      </span>
      <span className="message" role="status" data-testid="message">
        {session.message}
      </span>
      <div className="buttons">
        <Button isDisabled={!isChanged} onPress={() => session.flip()}>
          {isChanged ? (side === "now" ? "New plays" : "Kept plays") : "Compare"} <kbd>{FLIP_KEY}</kbd>
        </Button>
        <Button isDisabled={!isChanged} onPress={() => session.back()}>
          Back
        </Button>
        <Button isDisabled={!isChanged || !isPlaying} onPress={() => session.keep()}>
          Keep
        </Button>
        <Button isDisabled={!canUndo} onPress={() => session.undo()}>
          Undo
        </Button>
        <Button
          className="react-aria-Button main"
          isDisabled={isSaved || !isPlaying}
          onPress={() => void session.save()}
        >
          Save
        </Button>
      </div>
    </header>
  );
}

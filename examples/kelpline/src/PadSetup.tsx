/** The guided run that learns the layout of a pad which does not report the standard one. Worked by keyboard, mouse or the pad. */
import { useEffect, useState } from "react";
import {
  Button,
  Dialog,
  DialogTrigger,
  Heading,
  Modal,
  ModalOverlay,
  ProgressBar,
} from "react-aria-components";
import { learnPad, type PadLayouts, type PadLesson } from "reacher/browser";

/** The first pad whose own buttons are only numbers. */
function oddPad(): Gamepad | undefined {
  const isOdd = (pad: Gamepad | null) => pad !== null && pad.connected && pad.mapping !== "standard";
  try {
    return navigator.getGamepads().find(isOdd) ?? undefined;
  } catch {
    // The page may not read pads at all (Permissions Policy).
    return undefined;
  }
}

export function PadSetup({ layouts, onDone }: { layouts: PadLayouts; onDone: () => void }) {
  const pad = oddPad();
  if (pad === undefined) return null;
  const known = layouts.find(pad.id) !== undefined;
  return (
    <DialogTrigger onOpenChange={(open) => !open && onDone()}>
      <Button className="react-aria-Button quiet">{known ? "Pad layout" : "Set up this pad"}</Button>
      <ModalOverlay isDismissable className="overlay">
        <Modal className="modal">
          <Dialog>
            {({ close }) => <Steps id={pad.id} layouts={layouts} known={known} close={close} />}
          </Dialog>
        </Modal>
      </ModalOverlay>
    </DialogTrigger>
  );
}

function Steps({
  id,
  layouts,
  known,
  close,
}: {
  id: string;
  layouts: PadLayouts;
  known: boolean;
  close: () => void;
}) {
  const [lesson, setLesson] = useState<PadLesson | undefined>(undefined);
  const [, showAnew] = useState(0);

  useEffect(() => {
    if (lesson === undefined) return;
    let frame = requestAnimationFrame(function next() {
      frame = requestAnimationFrame(next);
      const pad = oddPad();
      if (pad === undefined) return;
      const waited = lesson.waits;
      if (lesson.look(pad) || waited !== lesson.waits) showAnew(performance.now());
      if (lesson.step !== undefined || lesson.waits) return;
      layouts.keep(id, lesson.layout());
      close();
    });
    return () => cancelAnimationFrame(frame);
  }, [lesson, layouts, id, close]);

  const begin = () => {
    const pad = oddPad();
    if (pad !== undefined) setLesson(learnPad(pad));
  };
  return (
    <>
      <Heading slot="title">Which button is which?</Heading>
      <p className="pad-id">{id.slice(0, 80)}</p>
      {lesson === undefined ? (
        <>
          <p>
            This pad does not say what its buttons are. Put it down, so that nothing is pressed, and begin.
          </p>
          <div className="row">
            <Button onPress={begin}>{known ? "Learn it again" : "Begin"}</Button>
            {known && (
              <Button
                className="react-aria-Button quiet"
                onPress={() => {
                  layouts.forget(id);
                  close();
                }}
              >
                Forget its layout
              </Button>
            )}
            <Button className="react-aria-Button quiet" onPress={close}>
              Close
            </Button>
          </div>
        </>
      ) : (
        <>
          <p className="ask" data-testid="ask" aria-live="polite">
            {lesson.waits ? "Good. Let go." : (lesson.step?.ask ?? "That was all.")}
          </p>
          <ProgressBar aria-label="Steps done" value={lesson.done} maxValue={lesson.of} className="air">
            {({ percentage }) => <div style={{ width: `${percentage}%` }} />}
          </ProgressBar>
          <div className="row">
            <Button
              onPress={() => {
                lesson.skip();
                showAnew(performance.now());
              }}
            >
              It has none: skip
            </Button>
            <Button
              className="react-aria-Button quiet"
              onPress={() => {
                lesson.back();
                showAnew(performance.now());
              }}
            >
              Back
            </Button>
            <Button
              className="react-aria-Button quiet"
              onPress={() => {
                layouts.keep(id, lesson.layout());
                close();
              }}
            >
              Keep what is learnt
            </Button>
          </div>
        </>
      )}
    </>
  );
}

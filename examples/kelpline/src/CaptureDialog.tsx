/** Captures one new key: waits for it, asks what to do if it is in use, and can clear or restore the present one. */
import { useEffect, useRef, useState } from "react";
import { Button, Dialog, Heading, Modal, ModalOverlay, ProgressBar } from "react-aria-components";
import {
  capture,
  CANCEL_WITH,
  choicesFor,
  type Capture,
  type CaptureProgress,
  type Choice,
  type Clash,
  type Rebinding,
} from "reacher/rebind";
import type { Session } from "./session";

const TIMEOUT_MS = 8000;
/** How often the time that is left is drawn. */
const DRAW_MS = 100;

/** The binding to change. */
export interface Place {
  readonly address: string;
  /** "Kick, Left hand". */
  readonly title: string;
  /** The present control, in words. */
  readonly now: string;
}

type Phase =
  | { readonly kind: "listening" }
  | {
      readonly kind: "clash";
      readonly control: string;
      readonly clashes: readonly Clash[];
      readonly choices: readonly Choice[];
    }
  | { readonly kind: "told"; readonly text: string };

export function CaptureDialog({
  session,
  place,
  onClose,
}: {
  session: Session;
  place: Place;
  onClose: () => void;
}) {
  return (
    <ModalOverlay isOpen isKeyboardDismissDisabled className="overlay">
      <Modal className="modal narrow">
        <Dialog data-testid="capture">
          <Asking session={session} place={place} onClose={onClose} />
        </Dialog>
      </Modal>
    </ModalOverlay>
  );
}

function Asking({ session, place, onClose }: { session: Session; place: Place; onClose: () => void }) {
  const [phase, setPhase] = useState<Phase>({ kind: "listening" });
  const [progress, setProgress] = useState<CaptureProgress | undefined>();
  const [left, setLeft] = useState(TIMEOUT_MS);
  const running = useRef<Capture>(undefined);
  const { settings } = session.shown;
  const { editor } = settings;

  useEffect(() => {
    if (phase.kind !== "listening") return;
    let over = false;
    const one = (running.current = capture(session.layer, {
      seat: session.shown.name,
      address: place.address,
      timeoutMs: TIMEOUT_MS,
      cancelWith: [...CANCEL_WITH, "MouseSecondary"],
      onProgress: (now) => !over && setProgress(now),
    }));
    setProgress(one.progress);
    const timer = setInterval(() => setLeft(one.leftMs), DRAW_MS);
    void one.done.then((captured) => {
      if (over) return;
      if (captured.control !== null) tryOn(captured.control, "refuse");
      else
        setPhase({
          kind: "told",
          text: {
            cancelled: "Nothing was changed.",
            timeout: "Nothing was pressed.",
            lost: "The window or the pad was lost.",
            replaced: "",
          }[captured.why],
        });
    });
    return () => {
      over = true;
      clearInterval(timer);
      one.cancel();
    };
  }, [phase.kind]);

  const settle = (result: Rebinding): boolean => {
    if (result.changed) onClose();
    else if (result.fault !== undefined) setPhase({ kind: "told", text: `${result.fault.message}.` });
    return result.changed || result.fault !== undefined;
  };
  const tryOn = (control: string, choice: Choice) => {
    const result = editor.rebind(place.address, control, choice);
    if (settle(result)) return;
    const choices = choicesFor(session.plan, editor.overrides, place.address, control);
    setPhase({ kind: "clash", control, clashes: result.clashes, choices });
  };
  const name = (control: string) => session.labels.label(control);

  return (
    <>
      <Heading slot="title">{place.title}</Heading>
      {phase.kind === "listening" && (
        <>
          <p className="ask" aria-live="assertive" data-testid="ask">
            {asked(progress, place, name)}
          </p>
          <ProgressBar aria-label="Time left" value={left} maxValue={TIMEOUT_MS} className="air">
            {({ percentage }) => <div style={{ width: `${percentage}%` }} />}
          </ProgressBar>
          <p className="note">
            <kbd>Escape</kbd>, the second mouse button or the pad's left middle button cancels.
          </p>
        </>
      )}
      {phase.kind === "clash" && (
        <>
          <p className="ask" role="alert" data-testid="clash">
            {name(phase.control)} is used by {usedBy(phase.clashes, session)} already.
          </p>
          <div className="column">
            {phase.choices.map((choice, n) => (
              <Button key={choice} autoFocus={n === 0} onPress={() => tryOn(phase.control, choice)}>
                {choiceText(choice, phase.clashes, place, session)}
              </Button>
            ))}
            <Button
              className="react-aria-Button quiet"
              autoFocus={phase.choices.length === 0}
              onPress={onClose}
            >
              Change nothing
            </Button>
          </div>
        </>
      )}
      {phase.kind === "told" && (
        <>
          <p className="ask" role="alert">
            {phase.text}
          </p>
          <div className="row">
            <Button autoFocus onPress={() => setPhase({ kind: "listening" })}>
              Press another
            </Button>
            {place.now !== "" && (
              <Button className="react-aria-Button quiet" onPress={() => settle(editor.clear(place.address))}>
                Clear it
              </Button>
            )}
            <Button
              className="react-aria-Button quiet"
              onPress={() => {
                editor.reset(place.address);
                onClose();
              }}
            >
              Back to default
            </Button>
            <Button className="react-aria-Button quiet" onPress={onClose}>
              Close
            </Button>
          </div>
        </>
      )}
    </>
  );
}

function asked(
  progress: CaptureProgress | undefined,
  place: Place,
  name: (control: string) => string,
): string {
  if (progress?.state === "letGo") return `Let go of ${progress.letGo.map(name).join(" and ")} first.`;
  if (progress?.state === "caught") return `${name(progress.control!)}. Let go.`;
  if (progress?.refused !== undefined)
    return `${name(progress.refused.control)} cannot be used: ${progress.refused.why}.`;
  return place.now === "" ? "Press what you want there." : `Press what you want in place of ${place.now}.`;
}

/** "Snip" or "Snip and teal's Kick". */
function usedBy(clashes: readonly Clash[], session: Session): string {
  return clashes
    .map(({ action, otherSeat }) => (otherSeat ? "the other diver's " : "") + session.labelOf(action))
    .join(" and ");
}

function choiceText(choice: Choice, clashes: readonly Clash[], place: Place, session: Session): string {
  const others = usedBy(clashes, session);
  if (choice === "swap")
    return place.now === "" ? `Take it from ${others}` : `Swap: ${others} gets ${place.now}`;
  if (choice === "take") return `Take it: ${others} is left without`;
  return "Let one press do both";
}

/** Five double taps at ease, and the window that fits the hand that made them. */
import { useEffect, useState } from "react";
import { Button, Dialog, Heading, Modal, ModalOverlay } from "react-aria-components";
import { runTapTest, type TapPair, type TapTestResult } from "reacher/rebind";
import type { Session } from "./session";

/** The picture's width in ms. */
const SHOWN_MS = 600;
const ROW = 34;

export function TapTestDialog({ session, onClose }: { session: Session; onClose: () => void }) {
  return (
    <ModalOverlay isOpen isKeyboardDismissDisabled className="overlay">
      <Modal className="modal narrow">
        <Dialog data-testid="tap-test">
          <Running session={session} onClose={onClose} />
        </Dialog>
      </Modal>
    </ModalOverlay>
  );
}

function Running({ session, onClose }: { session: Session; onClose: () => void }) {
  const [round, setRound] = useState(0);
  const [result, setResult] = useState<TapTestResult | undefined>();
  const [isOver, setOver] = useState(false);
  const { editor } = session.shown.settings;

  useEffect(() => {
    let left = false;
    setOver(false);
    const range = session.plan.actions.surge.player?.gapMs ?? [160, 400];
    const running = runTapTest(session.layer, {
      seat: session.shown.name,
      range,
      onProgress: (now) => !left && setResult(now),
    });
    setResult(running.test.result);
    void running.done.then(() => !left && setOver(true));
    return () => {
      left = true;
      running.cancel();
    };
  }, [round]);

  const gapMs = result?.gapMs;
  return (
    <>
      <Heading slot="title">Your double tap</Heading>
      <p>Double-tap any one key or button five times, slowly and relaxed. Escape cancels.</p>
      <Pairs pairs={result?.pairs ?? []} gapMs={gapMs} />
      <p className="ask short" aria-live="polite" data-testid="tap-reason">
        {isOver && gapMs === undefined ? "Nothing was changed." : result?.reason}
      </p>
      {isOver && (
        <div className="row">
          {gapMs !== undefined && (
            <Button
              autoFocus
              onPress={() => {
                editor.set("surge.gapMs", gapMs);
                onClose();
              }}
            >
              Use {gapMs} ms
            </Button>
          )}
          <Button
            className="react-aria-Button quiet"
            autoFocus={gapMs === undefined}
            onPress={() => setRound(round + 1)}
          >
            Once more
          </Button>
          <Button className="react-aria-Button quiet" onPress={onClose}>
            Close
          </Button>
        </div>
      )}
    </>
  );
}

/** Each pair on a line of time: the first press as a bar, the second as a mark, the window that fits as a line through all. */
function Pairs({ pairs, gapMs }: { pairs: readonly TapPair[]; gapMs: number | undefined }) {
  const said = pairs.map((pair) => `${Math.round(pair.gapMs)} ms`).join(", ");
  return (
    <svg
      className="pairs"
      viewBox={`0 0 ${SHOWN_MS} ${ROW * 5 + 26}`}
      role="img"
      aria-label={pairs.length === 0 ? "No double taps yet" : `Double taps so far: ${said}`}
    >
      {[0, 100, 200, 300, 400, 500].map((ms) => (
        <g key={ms}>
          <path className="grid" d={`M${ms} 0V${ROW * 5}`} />
          <text className="scale" x={ms + 3} y={ROW * 5 + 18}>
            {ms === 0 ? "0 ms" : ms}
          </text>
        </g>
      ))}
      {pairs.map((pair, n) => (
        <g key={n}>
          <rect
            className="held-bar"
            x="0"
            y={n * ROW + 9}
            width={Math.min(SHOWN_MS, pair.heldMs)}
            height="16"
            rx="3"
          />
          <path className="gap-line" d={`M0 ${n * ROW + 17}H${Math.min(SHOWN_MS, pair.gapMs)}`} />
          <circle className="second" cx={Math.min(SHOWN_MS - 8, pair.gapMs)} cy={n * ROW + 17} r="8" />
        </g>
      ))}
      {gapMs !== undefined && (
        <>
          <path className="window" d={`M${gapMs} 0V${ROW * 5}`} />
          <text className="window-text" x={gapMs + 6} y="14">
            {gapMs} ms fits
          </text>
        </>
      )}
    </svg>
  );
}

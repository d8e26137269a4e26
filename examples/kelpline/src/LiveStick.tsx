/** The seat's left stick as it is held now, raw and as the game has it, with the zones that are set. */
import { useEffect, useState } from "react";
import type { KelplinePlan } from "../plan/kelpline.plan.json";
import type { Session } from "./session";

export function LiveStick({ session }: { session: Session }) {
  const [, showAnew] = useState(0);
  useEffect(() => {
    let frame = requestAnimationFrame(function next(now) {
      frame = requestAnimationFrame(next);
      showAnew(now);
    });
    return () => cancelAnimationFrame(frame);
  }, []);
  const { editor } = session.shown.settings;
  const { swim } = editor.plan.actions as KelplinePlan["actions"];
  const stick = swim.from["pad"];
  if (typeof stick !== "string") return null;
  const held = session.layer.held();
  const raw = (part: string | undefined) => held.find(({ control }) => control === part)?.value ?? 0;
  const x = raw(`${stick}X`);
  const y = raw(`${stick}Y`);
  const { inner = 0.12, outer = 0.04 } = swim.shape?.deadZone ?? {};
  const length = Math.min(1, Math.sqrt(x * x + y * y));
  const shaped = Math.max(0, Math.min(1, (length - inner) / (1 - inner - outer)));
  return (
    <figure className="live">
      <svg
        className="dial"
        viewBox="-1.1 -1.1 2.2 2.2"
        role="img"
        aria-label={`The stick: tilted ${Math.round(length * 100)} percent, which counts as ${Math.round(shaped * 100)} percent`}
      >
        <circle r="1" className="rim" />
        <circle r={inner} className="zone filled" />
        <circle r={1 - outer} className="zone" />
        <path d="M-1 0H1M0 -1V1" className="cross" />
        <path d={`M0 0L${x} ${y}`} className="arrow" />
        <circle cx={x} cy={y} r="0.07" className="tip" />
      </svg>
      <figcaption>
        {held.length === 0 || length === 0
          ? "Tilt the left stick: the filled ring is what counts as rest."
          : `Tilt ${Math.round(length * 100)} %, counts as ${Math.round(shaped * 100)} %`}
      </figcaption>
    </figure>
  );
}

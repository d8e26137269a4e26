/** A response curve whose bends are dragged, or moved by the arrow keys. Raw tilt to the right, what it gives upwards. */
import { useRef } from "react";
import type { Settings } from "./labBench";

/** A bend keeps this far from its neighbours. */
const APART = 0.02;
const KEY_STEP = 0.02;

export function Curve({
  settings,
  tilt,
  shaped,
  onChange,
}: {
  settings: Settings;
  /** Where the stick is now: raw, and what it gives. */
  tilt: number;
  shaped: number;
  onChange: (bends: Settings["bends"]) => void;
}) {
  const svg = useRef<SVGSVGElement>(null);
  const { inner, outer, gain, bends } = settings;
  const raw = (free: number) => inner + free * (1 - inner - outer);
  const points = [[0, 0], ...bends, [1, 1]] as const;
  const path = [
    "M0 0",
    ...points.map(([x, y]) => `L${raw(x)} ${-Math.min(1, y * gain)}`),
    `L1 ${-Math.min(1, gain)}`,
  ].join("");

  const move = (n: number, x: number, y: number) => {
    const [left, right] = [points[n]!, points[n + 2]!];
    const bend = [
      Math.round(Math.min(right[0] - APART, Math.max(left[0] + APART, x)) * 100) / 100,
      Math.round(Math.min(right[1], Math.max(left[1], y)) * 100) / 100,
    ] as const;
    onChange(bends.map((one, at) => (at === n ? bend : one)));
  };

  return (
    <svg ref={svg} className="curve" viewBox="-0.02 -1.02 1.04 1.04" aria-label="Response curve">
      <rect className="still" x="0" y="-1" width={inner} height="1" />
      <rect className="still" x={1 - outer} y="-1" width={outer} height="1" />
      <path
        className="grid"
        d="M0 0H1M0 -0.25H1M0 -0.5H1M0 -0.75H1M0 -1H1M0 0V-1M0.25 0V-1M0.5 0V-1M0.75 0V-1M1 0V-1"
      />
      <path className="line" d={path} />
      <path className="now" d={`M${tilt} 0V${-shaped}H0`} />
      {bends.map(([x, y], n) => (
        <circle
          key={n}
          className="bend"
          cx={raw(x)}
          cy={-Math.min(1, y * gain)}
          r="0.03"
          tabIndex={0}
          role="slider"
          aria-label={`Bend ${n + 1} of the curve, at ${Math.round(x * 100)} percent of the travel`}
          aria-valuemin={0}
          aria-valuemax={100}
          aria-valuenow={Math.round(y * 100)}
          onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
          onPointerMove={(event) => {
            if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
            const box = svg.current!.getBoundingClientRect();
            const at = ((event.clientX - box.left) / box.width) * 1.04 - 0.02;
            const up = 1.02 - ((event.clientY - box.top) / box.height) * 1.04;
            move(n, (at - inner) / (1 - inner - outer), gain > 0 ? up / gain : 0);
          }}
          onKeyDown={(event) => {
            const way = { ArrowUp: [0, 1], ArrowDown: [0, -1], ArrowLeft: [-1, 0], ArrowRight: [1, 0] }[
              event.key
            ];
            if (way === undefined) return;
            event.preventDefault();
            event.stopPropagation();
            move(n, x + way[0]! * KEY_STEP, y + way[1]! * KEY_STEP);
          }}
        />
      ))}
    </svg>
  );
}

/** The lab: the raw and the shaped stick, the curve being dragged, and the same input driving two divers side by side. */
import { useEffect, useRef, useState } from "react";
import { createRoot } from "react-dom/client";
import { Button, Label, Slider, SliderOutput, SliderThumb, SliderTrack } from "react-aria-components";
import { Curve } from "./Curve";
import { newDiver, type Diver } from "./diver";
import { drawDiver } from "./draw";
import { LabBench, LANE, PLAIN, type Settings, type Side } from "./labBench";
import { twoDecimals } from "./player";
import "./style.css";
import "./lab.css";

const SLIDERS: readonly {
  field: keyof Settings & string;
  label: string;
  most: number;
  step: number;
  unit: string;
}[] = [
  { field: "inner", label: "Inner zone", most: 0.5, step: 0.01, unit: "" },
  { field: "outer", label: "Outer zone", most: 0.4, step: 0.01, unit: "" },
  { field: "gain", label: "Gain", most: 3, step: 0.05, unit: "×" },
  { field: "riseMs", label: "Keys rise", most: 400, step: 10, unit: " ms" },
  { field: "fallMs", label: "Keys fall", most: 400, step: 10, unit: " ms" },
];

function Lab({ bench }: { bench: LabBench }) {
  const lanes = useRef<HTMLCanvasElement>(null);
  const [, showAnew] = useState(0);
  const [divers] = useState(() => bench.sides.map(({ name }) => newDiver(name, 0)));

  useEffect(() => {
    let frame = requestAnimationFrame(function next() {
      frame = requestAnimationFrame(next);
      const now = performance.now();
      bench.frame(now);
      drawLanes(lanes.current!, bench, divers);
      showAnew(now);
    });
    return () => cancelAnimationFrame(frame);
  }, [bench, divers]);

  const [, yours] = bench.sides;
  const { settings } = yours;
  const found = bench.measure();
  const tilt = Math.min(1, Math.hypot(bench.raw.x, bench.raw.y));
  return (
    <main className="lab">
      <header>
        <h1>Kelpline: the lab</h1>
        <p>
          Tilt a pad's left stick, drag the one below, or use W A S D. Both divers get the same; only their
          settings differ.
        </p>
        <a href="./index.html">Back to the farm</a>
      </header>
      <section className="sticks">
        <h2>Raw</h2>
        <OwnStick bench={bench} />
        <p data-testid="raw">
          {twoDecimals(bench.raw.x)}, {twoDecimals(bench.raw.y)}
        </p>
      </section>
      {bench.sides.map((side) => (
        <Shaped key={side.name} side={side} />
      ))}
      <section className="bend">
        <h2>Curve of teal: drag its bends</h2>
        <Curve
          settings={settings}
          tilt={tilt}
          shaped={yours.layer.now.swim.length}
          onChange={(bends) => bench.set({ bends })}
        />
      </section>
      <section className="numbers">
        <h2>Settings of teal</h2>
        {SLIDERS.map(({ field, label, most, step, unit }) => (
          <Slider
            key={field}
            value={settings[field] as number}
            minValue={0}
            maxValue={most}
            step={step}
            onChange={(value) => bench.set({ [field]: value as number })}
          >
            <Label>{label}</Label>
            <SliderOutput>{`${settings[field] as number}${unit}`}</SliderOutput>
            <SliderTrack>
              <SliderThumb />
            </SliderTrack>
          </Slider>
        ))}
        <div className="row">
          <Button onPress={() => bench.keep()}>Keep for both</Button>
          <Button className="react-aria-Button quiet" onPress={() => bench.set(PLAIN)}>
            Back to plain
          </Button>
        </div>
      </section>
      <section className="measured" aria-label="The pad's left stick, measured">
        <h2>The pad's left stick</h2>
        {found === undefined ? (
          <p>Nothing measured yet: move it around its rim, then leave it at rest for a while.</p>
        ) : (
          <>
            <p>
              {found.measure.rest === undefined
                ? "Not yet seen at rest."
                : `Rests within ${twoDecimals(found.measure.rest.within)} of the centre${found.measure.rest.drift === undefined ? "" : ", and drifts"}.`}
            </p>
            <Button
              className="react-aria-Button quiet"
              onPress={() => bench.set({ inner: found.zone.inner, outer: found.zone.outer })}
            >
              Take inner {found.zone.inner}, outer {found.zone.outer}
            </Button>
          </>
        )}
      </section>
      <canvas ref={lanes} className="lanes" aria-label="Two divers on two lanes, driven by the same input" />
    </main>
  );
}

/** A stick to drag, or to tilt by the arrow keys; it goes back to rest when let go. */
function OwnStick({ bench }: { bench: LabBench }) {
  const pull = (event: React.PointerEvent<SVGSVGElement>) => {
    if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
    const box = event.currentTarget.getBoundingClientRect();
    const x = ((event.clientX - box.left) / box.width - 0.5) * 2.5;
    const y = (0.5 - (event.clientY - box.top) / box.height) * 2.5;
    const length = Math.max(1, Math.hypot(x, y));
    bench.tilt(x / length, y / length);
  };
  return (
    <svg
      className="dial own"
      viewBox="-1.25 -1.25 2.5 2.5"
      role="application"
      aria-label="A stick to drag"
      tabIndex={0}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        pull(event);
      }}
      onPointerMove={pull}
      onPointerUp={() => bench.tilt(0, 0)}
      onPointerCancel={() => bench.tilt(0, 0)}
    >
      <circle r="1" className="rim" />
      <path d="M-1 0H1M0 -1V1" className="cross" />
      <circle cx={bench.raw.x} cy={-bench.raw.y} r="0.16" className="knob" />
    </svg>
  );
}

function Shaped({ side: { name, label, layer, settings } }: { side: Side }) {
  const { swim } = layer.now;
  return (
    <section className={`sticks ${name}`}>
      <h2>
        {name}, {label}
      </h2>
      <svg className="dial" viewBox="-1.25 -1.25 2.5 2.5" role="img" aria-label={`Shaped stick of ${name}`}>
        <circle r="1" className="rim" />
        <circle r={settings.inner} className="zone" />
        <path d="M-1 0H1M0 -1V1" className="cross" />
        <path d={`M0 0L${swim.x} ${-swim.y}`} className="arrow" />
        <circle cx={swim.x} cy={-swim.y} r="0.1" className="tip" />
      </svg>
      <p data-testid={`shaped-${name}`}>
        {twoDecimals(swim.x)}, {twoDecimals(swim.y)} · {swim.gait ?? "at rest"}
        <br />
        {twoDecimals(swim.length * swim.pace)} m/s
      </p>
    </section>
  );
}

function drawLanes(canvas: HTMLCanvasElement, bench: LabBench, divers: readonly Diver[]): void {
  const { clientWidth, clientHeight } = canvas;
  const width = Math.round(clientWidth * devicePixelRatio);
  const height = Math.round(clientHeight * devicePixelRatio);
  if (canvas.width !== width) canvas.width = width;
  if (canvas.height !== height) canvas.height = height;
  const pen = canvas.getContext("2d")!;
  const scale = width / LANE;
  pen.setTransform(1, 0, 0, 1, 0, 0);
  pen.fillStyle = "#06202b";
  pen.fillRect(0, 0, width, height);
  bench.sides.forEach(({ metres, layer }, n) => {
    const diver = divers[n]!;
    const { swim } = layer.now;
    pen.setTransform(scale, 0, 0, -scale, width / 2, (height * (2 * n + 1)) / 4);
    pen.strokeStyle = "#24485a";
    pen.lineWidth = 0.05;
    for (let mark = -LANE / 2; mark <= LANE / 2; mark += 4) {
      pen.beginPath();
      pen.moveTo(mark, -1);
      pen.lineTo(mark, 1);
      pen.stroke();
    }
    diver.x = ((((metres + LANE / 2) % LANE) + LANE) % LANE) - LANE / 2;
    diver.y = 0;
    diver.heading = Math.atan2(swim.facing.y, swim.facing.x);
    diver.strokes += swim.length * 0.12;
    diver.stroke = swim.length * 0.32;
    drawDiver(pen, diver);
  });
}

createRoot(document.getElementById("root")!).render(<Lab bench={new LabBench()} />);

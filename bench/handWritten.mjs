/**
 * What programmers write by hand for the same game, looked at once a tick. Both do swim (two keys a direction), a hold, a toggle, a
 * double tap and one stick with the same dead zone and curve.
 */
const INNER = 0.12;
const OUTER = 0.04;
const POWER = 1.6;
const GAP_MS = 220;

/** The state that both compute. */
class Layer {
  stickX = 0;
  stickY = 0;
  x = 0;
  y = 0;
  vx = 0;
  vy = 0;
  kick = false;
  tuck = false;
  tuckChanged = false;
  surge = false;

  /** Keys and stick together, the longest of them, at the pace of a kick or without. */
  move(keyX, keyY) {
    let x = keyX;
    let y = keyY;
    if (x !== 0 && y !== 0) {
      x *= Math.SQRT1_2;
      y *= Math.SQRT1_2;
    }
    const tilt = Math.sqrt(this.stickX * this.stickX + this.stickY * this.stickY);
    if (tilt > INNER) {
      const length = Math.pow(Math.min(1, (tilt - INNER) / (1 - OUTER - INNER)), POWER);
      if (length > Math.abs(x) + Math.abs(y)) {
        x = (this.stickX / tilt) * length;
        y = (-this.stickY / tilt) * length;
      }
    }
    const pace = this.kick ? 4.8 : 2.4;
    this.x = x;
    this.y = y;
    this.vx = x * pace;
    this.vy = y * pace;
    return this;
  }
}

/** What a good programmer writes: a set of held codes, and one of what was pressed since the last tick. */
export class Plain extends Layer {
  held = new Set();
  pressed = new Set();
  lastTap = { KeyW: -Infinity, KeyA: -Infinity, KeyS: -Infinity, KeyD: -Infinity };

  keydown(code) {
    if (this.held.has(code)) return;
    this.held.add(code);
    this.pressed.add(code);
  }

  keyup(code) {
    this.held.delete(code);
  }

  tick(now) {
    const { held, pressed } = this;
    let x = 0;
    let y = 0;
    if (held.has("KeyW") || held.has("ArrowUp")) y += 1;
    if (held.has("KeyS") || held.has("ArrowDown")) y -= 1;
    if (held.has("KeyA") || held.has("ArrowLeft")) x -= 1;
    if (held.has("KeyD") || held.has("ArrowRight")) x += 1;
    this.kick = held.has("ShiftLeft");
    this.tuckChanged = this.surge = false;
    if (pressed.size > 0) {
      this.tuckChanged = pressed.has("KeyC");
      if (this.tuckChanged) this.tuck = !this.tuck;
      this.surge =
        this.tapped("KeyW", now) ||
        this.tapped("KeyA", now) ||
        this.tapped("KeyS", now) ||
        this.tapped("KeyD", now);
      pressed.clear();
    }
    return this.move(x, y);
  }

  tapped(code, now) {
    if (!this.pressed.has(code)) return false;
    const twice = now - this.lastTap[code] <= GAP_MS;
    this.lastTap[code] = now;
    return twice;
  }
}

const UP = 1 | 2;
const DOWN = 4 | 8;
const LEFT = 16 | 32;
const RIGHT = 64 | 128;
const KICK = 256;
const TUCK = 512;
const TAPPED = [1, 4, 16, 64];
const BITS = {
  KeyW: 1,
  ArrowUp: 2,
  KeyS: 4,
  ArrowDown: 8,
  KeyA: 16,
  ArrowLeft: 32,
  KeyD: 64,
  ArrowRight: 128,
  ShiftLeft: KICK,
  KeyC: TUCK,
};

/** What an expert writes for speed alone: one bit a key, and no names once an event is in. */
export class Bits extends Layer {
  held = 0;
  pressed = 0;
  lastTap = new Float64Array(TAPPED.length).fill(-Infinity);

  keydown(code) {
    const bit = BITS[code];
    if ((this.held & bit) !== 0) return;
    this.held |= bit;
    this.pressed |= bit;
  }

  keyup(code) {
    this.held &= ~BITS[code];
  }

  tick(now) {
    const { held, pressed } = this;
    this.kick = (held & KICK) !== 0;
    this.tuckChanged = this.surge = false;
    if (pressed !== 0) {
      this.tuckChanged = (pressed & TUCK) !== 0;
      if (this.tuckChanged) this.tuck = !this.tuck;
      for (let n = 0; n < TAPPED.length; n++) {
        if ((pressed & TAPPED[n]) === 0) continue;
        if (now - this.lastTap[n] <= GAP_MS) this.surge = true;
        this.lastTap[n] = now;
      }
      this.pressed = 0;
    }
    const x = ((held & RIGHT) !== 0 ? 1 : 0) - ((held & LEFT) !== 0 ? 1 : 0);
    const y = ((held & UP) !== 0 ? 1 : 0) - ((held & DOWN) !== 0 ? 1 : 0);
    return this.move(x, y);
  }
}

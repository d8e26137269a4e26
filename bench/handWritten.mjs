/**
 * What a good programmer writes by hand for the same game: a set of held codes, looked at once a tick.
 * It does swim (two keys a direction), a hold, a toggle, a double tap and one stick with the same dead zone and curve.
 */
const INNER = 0.12;
const OUTER = 0.04;
const POWER = 1.6;
const GAP_MS = 220;

export class HandWritten {
  held = new Set();
  pressed = new Set();
  lastTap = { KeyW: -Infinity, KeyA: -Infinity, KeyS: -Infinity, KeyD: -Infinity };
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
    this.kick = held.has("ShiftLeft");
    this.tuckChanged = pressed.has("KeyC");
    if (this.tuckChanged) this.tuck = !this.tuck;
    this.surge =
      this.tapped("KeyW", now) ||
      this.tapped("KeyA", now) ||
      this.tapped("KeyS", now) ||
      this.tapped("KeyD", now);
    pressed.clear();
    const pace = this.kick ? 4.8 : 2.4;
    this.x = x;
    this.y = y;
    this.vx = x * pace;
    this.vy = y * pace;
    return this;
  }

  tapped(code, now) {
    if (!this.pressed.has(code)) return false;
    const twice = now - this.lastTap[code] <= GAP_MS;
    this.lastTap[code] = now;
    return twice;
  }
}

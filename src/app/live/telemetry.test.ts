import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Status } from '#core/wire/telemetry.ts';
import { clearTelemetry, currentStatus, live, onStatus, takeTelemetry } from './telemetry.ts';

const status: Status = {
  mode: 'level',
  armed: false,
  blockers: [],
  lost: 'fine',
  lostAction: 'sticks',
  restartNeeded: false,
  benchAllowed: false,
  moving: 0,
  unavailable: [],
  refusal: '',
  decisions: 0,
  settings: '',
};

const power = { supplyV: 16, currentA: 1, usedMah: 0, servoRailV: 5 };
let at = 1;

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['performance'] });
  clearTelemetry();
});
afterEach(() => vi.useRealTimers());

describe('live values', () => {
  it('are live only for a moment: a stale one is not shown as live', () => {
    takeTelemetry('power', power, 1);
    expect(live('power')).toEqual(power);
    vi.advanceTimersByTime(1100);
    expect(live('power')).not.toBeNull();
    vi.advanceTimersByTime(200);
    expect(live('power')).toBeNull();
  });

  it('are gone at once with the link', () => {
    takeTelemetry('power', power, 1);
    takeTelemetry('status', status, at++);
    clearTelemetry();
    expect(live('power')).toBeNull();
    expect(currentStatus()).toBeNull();
  });

  it('tell of a status only when it changed', () => {
    let told = 0;
    const stop = onStatus(() => told++);
    takeTelemetry('status', status, at++);
    takeTelemetry('status', { ...status }, at++);
    takeTelemetry('status', { ...status, moving: 3 }, at++);
    stop();
    takeTelemetry('status', status, at++);
    expect(told).toBe(2);
  });
});

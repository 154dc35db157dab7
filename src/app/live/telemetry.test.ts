import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Status } from '#core/wire/messages.ts';
import { clearTelemetry, currentStatus, liveNumbers, onStatus, takeTelemetry } from './telemetry.ts';

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
};

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['performance'] });
  clearTelemetry();
});
afterEach(() => vi.useRealTimers());

describe('live values', () => {
  it('are live only for a moment: a stale one is not shown as live', () => {
    takeTelemetry('power', [16, 1, 0, 5]);
    expect(liveNumbers('power')).toEqual([16, 1, 0, 5]);
    vi.advanceTimersByTime(1100);
    expect(liveNumbers('power')).not.toBeNull();
    vi.advanceTimersByTime(200);
    expect(liveNumbers('power')).toBeNull();
  });

  it('are gone at once with the link', () => {
    takeTelemetry('attitude', [0, 0, 0, 0, 0, 0]);
    takeTelemetry('status', status);
    clearTelemetry();
    expect(liveNumbers('attitude')).toBeNull();
    expect(currentStatus()).toBeNull();
  });

  it('tell of a status only when it changed', () => {
    let told = 0;
    const stop = onStatus(() => told++);
    takeTelemetry('status', status);
    takeTelemetry('status', { ...status });
    takeTelemetry('status', { ...status, moving: 3 });
    stop();
    takeTelemetry('status', status);
    expect(told).toBe(2);
  });
});

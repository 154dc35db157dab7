import type { Status, TelemetryGroup } from '#core/wire/messages.ts';

/** The newest telemetry, outside Redux. A group not heard for this long is no longer live. */
const STALE_MS = 1200;

interface Heard {
  value: readonly number[] | Status;
  at: number;
}

const heard = new Map<TelemetryGroup, Heard>();
const listeners = new Set<() => void>();
let status: Status | null = null;

export function takeTelemetry(group: TelemetryGroup, value: unknown): void {
  heard.set(group, { value: value as Heard['value'], at: performance.now() });
  if (group === 'status') {
    const next = value as Status;
    if (JSON.stringify(next) !== JSON.stringify(status)) {
      status = next;
      for (const l of listeners) l();
    }
  }
}

/** The link is gone: nothing is live any more. */
export function clearTelemetry(): void {
  heard.clear();
  status = null;
  for (const l of listeners) l();
}

/** Numbers of a group while they are live, else null. */
export function liveNumbers(group: Exclude<TelemetryGroup, 'status'>): readonly number[] | null {
  const h = heard.get(group);
  return h && performance.now() - h.at < STALE_MS ? (h.value as readonly number[]) : null;
}

export function currentStatus(): Status | null {
  return status;
}

export function onStatus(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

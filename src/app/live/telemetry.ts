import { isGroup, type Status, type TelemetryGroup } from '#core/wire/messages.ts';

/** The newest telemetry, outside Redux. A group not heard for this long is no longer live. */
const STALE_MS = 1200;
/** Those that are only read by a person come seldom. */
const OTHERS_STALE_MS = 5000;

interface Heard {
  value: unknown;
  at: number;
}

const heard = new Map<string, Heard>();
const listeners = new Set<() => void>();
let status: Status | null = null;

/** @param group a known one with what its schema says, or the board's own with whatever it says */
export function takeTelemetry(group: string, value: unknown): void {
  heard.set(group, { value, at: performance.now() });
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

/** What a board tells besides the known groups, as text. */
export function otherTelemetry(): readonly (readonly [string, string])[] {
  const others = [...heard].filter(
    ([group, h]) => !isGroup(group) && performance.now() - h.at < OTHERS_STALE_MS,
  );
  return others.map(([group, h]) => [group, asText(h.value)] as const);
}

function asText(value: unknown): string {
  const text = typeof value === 'string' ? value : (JSON.stringify(value) ?? '');
  return text.length > 200 ? `${text.slice(0, 199)}…` : text;
}

export function currentStatus(): Status | null {
  return status;
}

export function onStatus(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

import type { Status, Telemetry, TelemetryGroup } from '#core/wire/telemetry.ts';
import { type Sample, Samples } from '#link/samples.ts';

/** The newest telemetry, outside Redux. A group not heard for this long is no longer live. */
const STALE_MS = 1200;
/** Those that are only read by a person come seldom. */
const OTHERS_STALE_MS = 5000;

/** All that came over the link, by the board's own time. */
const samples = new Samples();
/** When each group was last heard, by the page's clock. */
const heardAt = new Map<string, number>();
const listeners = new Set<() => void>();
let status: Status | null = null;

/** @param group a known one with what it says, or the board's own with whatever it says */
export function takeTelemetry(group: string, value: unknown, atS: number): void {
  if (!samples.take(group, value, atS)) return;
  heardAt.set(group, performance.now());
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
  samples.clear();
  heardAt.clear();
  status = null;
  for (const l of listeners) l();
}

const isHeard = (group: string, withinMs: number) =>
  performance.now() - (heardAt.get(group) ?? Number.NEGATIVE_INFINITY) < withinMs;

/** What a group says while it is live, else null. */
export function live<G extends TelemetryGroup>(group: G): Telemetry[G] | null {
  return isHeard(group, STALE_MS) ? (samples.newest(group)?.value ?? null) : null;
}

/** What a group said in the last seconds of the board's time, oldest first; empty when it is not live. */
export function recent<G extends TelemetryGroup>(group: G, seconds: number): readonly Sample<G>[] {
  const newest = isHeard(group, STALE_MS) ? samples.newest(group) : null;
  return newest ? samples.since(group, newest.atS - seconds) : [];
}

/** What a board tells besides the known groups, as text. */
export function otherTelemetry(): readonly (readonly [string, string])[] {
  return [...samples.ofItsOwn]
    .filter(([group]) => isHeard(group, OTHERS_STALE_MS))
    .map(([group, { value }]) => [group, asText(value)] as const);
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

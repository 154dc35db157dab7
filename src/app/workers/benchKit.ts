import { readHistory } from '#core/formats/history.ts';
import type { Values } from '#core/settings/catalogue.ts';
import oldHistory from '#demo/turnstone-2.8.wanderweg-history.json?raw';
import { catalogueOf } from '#firmware/releases.ts';
import type { PfadVersion } from '#firmware/versions.ts';

/** What a worker needs to put a craft on the bench, in one piece, so that it can be loaded when it is wanted. */
export { BenchBoard, OWN, shelfFor } from '#bench/benchBoard.ts';
export { BenchWorld } from '#bench/benchWorld.ts';
export { flyBoard } from '#bench/dayOut.ts';

/** Settings that somebody left on a board: those of the kept history where it is of that version, else its defaults. */
export function foreignSettings(version: PfadVersion | null): Values {
  const read = readHistory(oldHistory);
  const left = read.ok && read.history.snapshots.find((s) => s.version === version);
  if (left) return read.history.contents[left.content]!;
  return version === null ? {} : catalogueOf(version).defaults();
}
export { boardOf } from '#core/board/boards.ts';
/** Boards as the browser kept them. */
export * from './shelf.ts';

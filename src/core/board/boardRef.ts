import * as z from 'zod';
import { boardOf, boards } from './boards.ts';
import { describeBoard } from './describe.ts';
import type { BoardDescription } from './description.ts';
import { title } from './explain.ts';
import type { BoardModel } from './model.ts';

/**
 * The one board that a craft is for: what its settings, wiring, findings, starting values and rehearsals are about.
 * Taken from the board itself when it is met; chosen by hand for one that is yet to be bought.
 */
export const boardRefSchema = z.object({
  /** Name of firmware builds for it. */
  target: z.string().min(1).max(40),
  revision: z.string().max(20).default(''),
  firmware: z.string().max(40).default(''),
  version: z.string().max(20).default(''),
  /** Of the very board; empty for one that was never met. */
  serial: z.string().max(60).default(''),
});
export type BoardRef = z.infer<typeof boardRefSchema>;

/** A board of this make that was not met yet. */
export function refTo(model: BoardModel, firmware: string, version: string): BoardRef {
  return { target: model.target, revision: model.revision, firmware, version, serial: '' };
}

/** What is known here of the board that a craft is for; null for a make that only the board itself could tell of. */
export function knownDescription(ref: Pick<BoardRef, 'target'>): BoardDescription | null {
  const model = boardOf(ref.target);
  return model ? describeBoard(model) : null;
}

/** What the board of a description is made of: as it says itself, or as its make is known here; null for neither. */
export function layoutOf(description: BoardDescription | null | undefined): BoardModel | null {
  if (!description) return null;
  return description.layout ?? boardOf(description.target) ?? null;
}

/** What a board is called: its make with the revision where it is known here, else its target. */
export function boardTitle(ref: Pick<BoardRef, 'target'>): string {
  const model = boardOf(ref.target);
  return model ? title(model) : ref.target;
}

/** The target of the board that was kept by its name: craft files before version 3. Unknown names become one. */
export function targetNamed(name: string): string {
  const known = boards.find((b) => b.name === name);
  const slug = name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '');
  return known?.target ?? (slug || 'unknown');
}

import { type Catalogue, type Refusal, sameValue, type Values } from '../catalogue.ts';
import { migrate, newIn, pathBetween, type WalkedStep } from './migrate.ts';

/**
 * A board of another firmware version as this application's stations see it: its settings under the names and scales
 * of the version that they are written for, and edits put back into the board's own.
 */
export class VersionLens {
  private readonly up: readonly WalkedStep[];
  private readonly down: readonly WalkedStep[];

  /**
   * @param native what the board says it can be told
   * @param shown catalogue of the version that is shown
   * @throws RangeError when no migration leads from one version to the other
   */
  constructor(
    private readonly from: string,
    private readonly native: Catalogue,
    private readonly to: string,
    private readonly shown: Catalogue,
  ) {
    const [up, down] = [pathBetween(from, to), pathBetween(to, from)];
    if (!up || !down) throw new RangeError(`there is no way from ${from} to ${to}`);
    this.up = up;
    this.down = down;
  }

  /** Settings that are shown and that the board's version has not. */
  lacks(): readonly string[] {
    return this.shown.entries.map((e) => e.key).filter((key) => newIn(key, this.up) !== null);
  }

  /** The board's settings as they are shown; what its version lacks has the shown version's default. */
  toShown(native: Values): Values {
    const { values } = migrate(native, this.from, this.to, this.up, this.native, this.shown);
    return { ...this.shown.defaults(), ...values };
  }

  /**
   * Edits in the board's own terms. Settings that were not edited are left alone, whatever rounding there is.
   * @param now settings on the board, in its own terms
   * @param edits in the terms that are shown
   * @returns refusals for edits that the board's version cannot express
   */
  toNative(now: Values, edits: Values): { readonly edits: Values; readonly refusals: readonly Refusal[] } {
    const base = this.toShown(now);
    const put = (values: Values) =>
      migrate(values, this.to, this.from, this.down, this.shown, this.native).values;
    const [before, after] = [put(base), put({ ...base, ...edits })];
    const changed = Object.fromEntries(
      Object.entries(after).filter(([key, value]) => !sameValue(before[key], value)),
    );
    const comes = this.toShown({ ...now, ...changed });
    const refusals = Object.entries(edits)
      .filter(([key, wanted]) => !this.near(key, wanted, comes[key]))
      .map(([key]) => ({
        key,
        code: 'no-counterpart',
        why: `Pfad ${this.from}, which runs on the board, cannot be told this. Put ${this.to} on it first.`,
      }));
    return { edits: changed, refusals };
  }

  /** The same but for the rounding of a conversion there and back. */
  private near(key: string, a: unknown, b: unknown): boolean {
    if (typeof a !== 'number' || typeof b !== 'number') return a === b;
    const step = this.shown.entry(key)?.step ?? 0;
    return Math.abs(a - b) <= Math.max(step, 1e-3 * Math.abs(a));
  }
}

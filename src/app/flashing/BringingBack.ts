import * as z from 'zod';
import { parsed } from '#core/parsed.ts';
import { sameValue } from '#core/settings/catalogue.ts';
import type { Returning } from '../store/firmwareSlice.ts';
import { type FlashParts, faultText, Notebook } from './parts.ts';

const returningSchema = z.object({ serial: z.string(), snapshot: z.string() });

/** Settings that were kept before another firmware came, on their way back to the board. */
export class BringingBack {
  private readonly notebook: Notebook;

  constructor(private readonly parts: FlashParts) {
    this.notebook = new Notebook(parts);
  }

  /** Notes which settings are to come back, over a reload as well; null for none. */
  async wait(returning: Returning | null): Promise<void> {
    this.notebook.change({ returning });
    await this.notebook.remember('returning', returning);
  }

  /** After a reload: which settings are to come back. */
  async recall(): Promise<void> {
    if (this.notebook.now.returning !== null) return;
    const kept = parsed(returningSchema, await this.notebook.recall('returning'));
    if (kept.success) this.notebook.change({ returning: kept.data });
  }

  /** Works out what the kept settings are under the firmware that runs now. */
  async prepare(chosen: Readonly<Record<string, number>> = {}): Promise<void> {
    await this.parts.history.load();
    const { board, history } = this.parts.store.getState();
    const { returning } = this.notebook.now;
    const { identity } = board;
    if (!returning || identity?.serial !== returning.serial) return;
    const snapshot = history.snapshots.find((s) => s.id === returning.snapshot);
    const values = await this.parts.history.contentOf(returning.snapshot);
    if (!snapshot || !values) {
      this.notebook.change({
        back: { kind: 'failed', why: 'The settings that were kept of it are not in this browser any more.' },
      });
      return;
    }
    const report = await this.parts.carry(values, snapshot.version, identity.version, chosen);
    if (!report) {
      const why = `There is no table that leads from ${snapshot.version} to ${identity.version}; the settings stay under What was kept.`;
      this.notebook.change({ back: { kind: 'failed', why } });
      return;
    }
    this.notebook.change({ report });
    const holds = this.parts.session.holds();
    // The same version with its settings kept has nothing to bring back.
    if (Object.entries(report.values).every(([k, v]) => sameValue(holds[k], v))) {
      await this.wait(null);
      this.notebook.change({ report: null, back: { kind: 'done', count: 0 } });
    }
  }

  /** The person took the report: what differs is written, and counts once the board has read it back. */
  async bring(): Promise<void> {
    const { report } = this.notebook.now;
    if (!report || this.notebook.now.back.kind === 'writing') return;
    this.notebook.change({ back: { kind: 'writing' } });
    try {
      const holds = this.parts.session.holds();
      const edits = Object.fromEntries(
        Object.entries(report.values).filter(([k, v]) => !sameValue(holds[k], v)),
      );
      await this.parts.session.writeOwn(edits);
      await this.wait(null);
      this.notebook.change({ report: null, back: { kind: 'done', count: Object.keys(edits).length } });
    } catch (error) {
      this.notebook.change({ back: { kind: 'failed', why: faultText(error) } });
    }
  }

  /** The person leaves the board on its defaults; what was kept stays kept. */
  async leave(): Promise<void> {
    await this.wait(null);
    this.notebook.change({ report: null, back: { kind: 'idle' } });
  }
}

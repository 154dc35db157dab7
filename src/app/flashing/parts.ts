import type { Inspected } from '#core/formats/firmwareImage.ts';
import type { Values } from '#core/settings/catalogue.ts';
import type { MigrationReport } from '#core/settings/migration/migrate.ts';
import type { BoardSession, SessionParts } from '../board/BoardSession.ts';
import type { History } from '../history/History.ts';
import type { Rows } from '../store/database.ts';
import { type FirmwareState, firmwareChanged } from '../store/firmwareSlice.ts';

/** What the walk to another firmware works with; nothing of it is the browser's own. */
export interface FlashParts {
  readonly store: SessionParts['store'] & { subscribe(listener: () => void): () => void };
  readonly storage: Rows;
  readonly session: Pick<BoardSession, 'openLink' | 'holds' | 'writeOwn'>;
  readonly history: Pick<History, 'keep' | 'load' | 'contentOf' | 'exportFile'>;
  /** Of the release service, by the name of the file. @throws TypeError where it is not there */
  readonly fetch: (file: string, limitMs: number) => Promise<Response>;
  /** Reads an image, away from the page. */
  readonly inspect: (hex: Uint8Array<ArrayBuffer>, target?: string) => Promise<Inspected>;
  /** Carries settings from version to version; null where no table leads there. */
  readonly carry: (
    values: Values,
    from: string,
    to: string,
    chosen: Readonly<Record<string, number>>,
  ) => Promise<MigrationReport | null>;
  /** How long a board may take to come back, ms. */
  readonly waitMs: number;
}

export const faultText = (error: unknown) => (error instanceof Error ? error.message : String(error));

/** What is known of the walk: in the store, and for the next visit in the browser. */
export class Notebook {
  constructor(private readonly parts: Pick<FlashParts, 'store' | 'storage'>) {}

  get now(): FirmwareState {
    return this.parts.store.getState().firmware;
  }

  change(c: Partial<FirmwareState>): void {
    this.parts.store.dispatch(firmwareChanged(c));
  }

  async remember(key: string, value: unknown): Promise<void> {
    try {
      await this.parts.storage.write([{ in: 'firmware', put: value, key }]);
    } catch {
      // Then it is fetched again the next time.
    }
  }

  async recall(key: string): Promise<unknown> {
    try {
      return await this.parts.storage.get('firmware', key);
    } catch {
      return undefined;
    }
  }
}

import { type Part, type RowChange, type Rows, StoreFault } from '../app/store/database.ts';

/** For tests: a browser's store in memory, which refuses everything when told to. */
export class MemoryRows implements Rows {
  /** Whether it refuses everything, and with what. */
  refuses: boolean | StoreFault = false;
  private readonly parts = new Map<Part, Map<string, unknown>>();

  private part(name: Part): Map<string, unknown> {
    if (this.refuses) throw this.refuses === true ? new StoreFault('full') : this.refuses;
    const part = this.parts.get(name) ?? new Map<string, unknown>();
    this.parts.set(name, part);
    return part;
  }

  async get(from: Part, key: string): Promise<unknown> {
    return this.part(from).get(key);
  }

  async all(from: Part): Promise<readonly unknown[]> {
    return [...this.part(from).values()];
  }

  async keys(from: Part): Promise<readonly string[]> {
    return [...this.part(from).keys()];
  }

  async write(changes: readonly RowChange[]): Promise<void> {
    for (const c of changes) {
      const part = this.part(c.in);
      if ('delete' in c) part.delete(c.delete);
      else part.set(c.key ?? (c.put as { id: string }).id, structuredClone(c.put));
    }
  }

  async swap(
    into: Part,
    row: { readonly id: string; readonly rev: number },
    after: number | null,
  ): Promise<boolean> {
    const part = this.part(into);
    const kept = part.get(row.id) as { rev: number } | undefined;
    if ((kept?.rev ?? null) !== after) return false;
    part.set(row.id, structuredClone(row));
    return true;
  }
}

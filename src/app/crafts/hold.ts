/**
 * One tab works on a craft at a time; others read along, and can take it over. Held by a lock of the browser's, which
 * ends with the tab whatever becomes of it.
 */
export interface Hold {
  /** @returns false where another tab has it */
  take(id: string): Promise<boolean>;
  /** Asks the tab that has it to keep everything and let go; one that does not answer loses it. */
  takeOver(id: string): Promise<void>;
  letGo(): void;
  /** Tells the tabs that read along that it was kept anew. */
  tellKept(id: string): void;
  /** Another tab wants it: everything is kept before the promise is settled. */
  onAsked: () => Promise<void>;
  /** Another tab has it now. */
  onLost: () => void;
  /** Another tab kept it anew. */
  onKept: (id: string) => void;
}

const ANSWER_MS = 2500;
const lockOf = (id: string) => `wanderweg craft ${id}`;

type Message = { readonly say: 'give' | 'kept'; readonly id: string };

export class TabHold implements Hold {
  onAsked = async () => {};
  onLost = () => {};
  onKept: (id: string) => void = () => {};
  private readonly channel = new BroadcastChannel('wanderweg craft');
  private held: { readonly id: string; release: () => void } | null = null;

  constructor() {
    this.channel.onmessage = ({ data }: MessageEvent<Message>) => {
      if (data.say === 'kept') this.onKept(data.id);
      else if (this.held?.id === data.id) void this.give();
    };
  }

  private async give(): Promise<void> {
    await this.onAsked();
    this.letGo();
    this.onLost();
  }

  take(id: string): Promise<boolean> {
    return this.request(id, { ifAvailable: true });
  }

  async takeOver(id: string): Promise<void> {
    this.channel.postMessage({ say: 'give', id } satisfies Message);
    try {
      await this.request(id, { signal: AbortSignal.timeout(ANSWER_MS) });
    } catch {
      await this.request(id, { steal: true });
    }
  }

  /** Holds the lock until it is let go or stolen. */
  private request(id: string, how: LockOptions): Promise<boolean> {
    this.letGo();
    // A browser without locks still tells, by the count of changes, who wrote in between.
    if (!('locks' in navigator)) return Promise.resolve(true);
    return new Promise((resolve, reject) => {
      navigator.locks
        .request(lockOf(id), how, (lock) => {
          if (!lock) {
            resolve(false);
            return undefined;
          }
          return new Promise<void>((release) => {
            this.held = { id, release };
            resolve(true);
          });
        })
        .catch((error) => {
          if (this.held?.id !== id) {
            reject(error);
            return;
          }
          // Stolen by a tab to which this one did not answer.
          this.held = null;
          this.onLost();
        });
    });
  }

  letGo(): void {
    this.held?.release();
    this.held = null;
  }

  tellKept(id: string): void {
    this.channel.postMessage({ say: 'kept', id } satisfies Message);
  }
}

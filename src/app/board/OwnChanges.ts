/** What it takes to notice that a board changed its own settings, as by its sticks. */
interface OwnChangesParts {
  /** Print of the settings that are known of it; undefined while none are. */
  readonly known: () => string | undefined;
  /** Something is being written to it from here. */
  readonly busy: () => boolean;
  /** Reads its settings again, and says what is other. */
  readonly read: () => Promise<void>;
}

/** Reads a board's settings again when it says that they are others than those that are known. */
export class OwnChanges {
  private reading = false;

  constructor(private readonly parts: OwnChangesParts) {}

  /** @param print of the settings that it holds now; empty where it does not say */
  told(print: string): void {
    const { known, busy, read } = this.parts;
    if (print === '' || this.reading || busy() || known() === undefined || known() === print) return;
    this.reading = true;
    void read()
      // A cable that came out in the middle: it is met again, and read as a whole.
      .catch(() => {})
      .finally(() => {
        this.reading = false;
      });
  }
}

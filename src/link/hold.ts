import { type BenchTarget, DEAD_MAN_MS } from '#core/wire/messages.ts';
import type { LinkClient } from './client.ts';

const REPEAT_MS = DEAD_MAN_MS / 3;

/**
 * Moving one output for as long as a person holds the control: says so again and again, and stops saying it at
 * release. If this end dies, the board stops by itself.
 */
export class OutputHold {
  private timer: ReturnType<typeof setInterval> | null = null;

  constructor(private readonly client: LinkClient) {}

  /** @param to where a servo is brought; left out, it swings */
  start(output: number, to?: BenchTarget): void {
    this.stop();
    const run = this.client.acts.fresh();
    const say = () => this.client.say('bench-move', to ? { output, run, to } : { output, run });
    say();
    this.timer = setInterval(say, REPEAT_MS);
  }

  stop(): void {
    if (this.timer === null) return;
    clearInterval(this.timer);
    this.timer = null;
    this.client.say('bench-stop', {});
  }
}

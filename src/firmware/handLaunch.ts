import { ThrowWatch } from '#core/arming/throwWatch.ts';
import type { Config } from './config.ts';

export type LaunchPhase = 'waiting' | 'thrown' | 'climbing' | 'done';

/** Hand launch: motor off until the throw is felt, then full power and a steady climb. */
export class HandLaunch {
  phase: LaunchPhase = 'done';
  private readonly watch = new ThrowWatch();
  private seconds = 0;
  private startHeight = 0;

  constructor(
    private readonly c: Config,
    private readonly say: (text: string) => void = () => {},
  ) {}

  begin(): void {
    this.phase = 'waiting';
    this.watch.clear();
    this.say('Hand launch: waits for the throw with the motor off.');
  }

  /** @param push specific force along the nose, m/s^2. @param height m */
  step(push: number, height: number, sticksMoved: boolean, dt: number): void {
    const { launch } = this.c;
    this.seconds += dt;
    switch (this.phase) {
      case 'waiting':
        if (!this.watch.step(push, launch.accel, dt)) return;
        this.phase = 'thrown';
        this.seconds = 0;
        this.startHeight = height;
        this.say('Hand launch: thrown.');
        break;
      case 'thrown':
        if (this.seconds >= launch.delay) this.phase = 'climbing';
        break;
      case 'climbing':
        if (sticksMoved || this.seconds > launch.time || height - this.startHeight > launch.height) {
          this.phase = 'done';
          this.say(sticksMoved ? 'Hand launch: the pilot takes over.' : 'Hand launch: done.');
        }
        break;
    }
  }

  get running(): boolean {
    return this.phase !== 'done';
  }

  get throttle(): number {
    return this.phase === 'climbing' ? this.c.launch.throttle : 0;
  }
}

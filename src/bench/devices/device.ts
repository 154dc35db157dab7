import type { FaultKind } from '#core/formats/scenario.ts';
import { Noise } from '#core/math/random.ts';

/** A slow device reads every tenth time; an intermittent one is away for this many readings in a row. */
const SLOW_EVERY = 10;
const AWAY_READINGS = 60;
const NOISY_FACTOR = 25;

/** What a device does this time: measure, say the last value again, or nothing. */
export type Turn = 'measure' | 'repeat' | 'nothing';

/** Something on the board's buses or ports that may fail. */
export abstract class Device {
  fault: FaultKind = 'none';
  protected readonly noise: Noise;
  private count = 0;
  private away = 0;

  constructor(seed: number) {
    this.noise = new Noise(seed);
  }

  protected turn(): Turn {
    switch (this.fault) {
      case 'dead':
      case 'jammed':
        return 'nothing';
      case 'stuck':
        return 'repeat';
      case 'slow':
        return this.count++ % SLOW_EVERY === 0 ? 'measure' : 'nothing';
      case 'intermittent':
        if (this.away > 0) this.away--;
        else if (this.noise.next() > 2.2) this.away = AWAY_READINGS;
        return this.away > 0 ? 'nothing' : 'measure';
      default:
        return 'measure';
    }
  }

  /** How much louder its noise is. */
  protected get loudness(): number {
    return this.fault === 'noisy' ? NOISY_FACTOR : 1;
  }
}

/** A device on a bus that is read fifty times a second; a stuck one says its last value again. */
export abstract class SampledDevice<Out extends { samples: number }> extends Device {
  constructor(
    seed: number,
    protected readonly out: Out,
  ) {
    super(seed);
  }

  step(): void {
    const turn = this.turn();
    if (turn === 'nothing') return;
    this.out.samples++;
    if (turn === 'measure') this.measure();
  }

  protected abstract measure(): void;
}

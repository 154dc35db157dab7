/** Flight modes of this slice, from least to most help. When several are asked for, the later one wins. */
export const modeIds = ['manual', 'rate', 'level', 'return'] as const;
export type ModeId = (typeof modeIds)[number];

export const modeNames: Readonly<Record<ModeId, string>> = {
  manual: 'Manual',
  rate: 'Rate',
  level: 'Level',
  return: 'Return home',
};

/** A band of one receiver channel that asks for something. Channel 0 is "no switch". */
export interface SwitchBand {
  readonly channel: number;
  readonly fromUs: number;
  readonly toUs: number;
}

/** Whether a band is on, with hysteresis so that a switch resting on its edge does not chatter. */
export class BandSwitch {
  on = false;
  constructor(
    private readonly band: SwitchBand,
    private readonly hysteresisUs = 8,
  ) {}

  step(channels: ArrayLike<number>): boolean {
    const { channel, fromUs, toUs } = this.band;
    if (channel < 1 || channel > channels.length) {
      this.on = false;
      return false;
    }
    const us = channels[channel - 1]!;
    const slack = this.on ? this.hysteresisUs : 0;
    this.on = us >= fromUs - slack && us <= toUs + slack;
    return this.on;
  }
}

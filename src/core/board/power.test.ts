import { describe, expect, it } from 'vitest';
import { boards, cobbleF4Wing, massifH7B } from './boards.ts';
import { deviceNames } from './deviceKinds.ts';
import { powerFaults, railLoads } from './power.ts';
import type { Wishes } from './wishes.ts';

const wishes = (w: Partial<Wishes>): Wishes => ({ outputs: [], serial: [], buses: [], ...w });
const servos = (n: number) =>
  Array.from({ length: n }, (_, i) => ({ name: `servo ${i + 1}`, kind: 'servo-pwm' as const }));

describe('what rails carry', () => {
  it('is the sum of what hangs on each: devices on one, servos on the other, motors on neither', () => {
    const [board, servo] = railLoads(
      massifH7B,
      wishes({
        outputs: [...servos(4), { name: 'motor', kind: 'dshot600' }, { name: 'strip', kind: 'led' }],
        serial: [{ device: 'gnss' }, { device: 'telemetry' }],
      }),
      deviceNames,
    );
    expect(board!.mostA).toBeCloseTo(0.22 + 0.06 + 0.25, 9);
    expect(servo!.mostA).toBeCloseTo(4 * 0.9 + 0.5, 9);
    expect(servo!.on.map((d) => d.name)).not.toContain('motor');
    expect(board!.on.map((d) => d.name)).toContain('GNSS receiver');
  });

  it('is too much when servos held fast draw more than the regulator gives', () => {
    const why = powerFaults(cobbleF4Wing, wishes({ outputs: servos(4) }), deviceNames, 3);
    expect(why).toEqual([{ severity: 'caution', why: expect.stringContaining('held fast draw 3.6 A') }]);
    expect(powerFaults(cobbleF4Wing, wishes({ outputs: servos(3) }), deviceNames, 3)).toEqual([]);
    const many = powerFaults(cobbleF4Wing, wishes({ outputs: servos(13) }), deviceNames, 3);
    expect(many[0]).toMatchObject({ severity: 'blocks' });
  });

  it('is short on USB before it is on the battery', () => {
    const devices = wishes({
      serial: [{ device: 'telemetry' }, { device: 'camera' }, { device: 'receiver-crsf' }],
    });
    const faults = powerFaults(cobbleF4Wing, devices, deviceNames, 3);
    expect(faults).toEqual([
      { severity: 'caution', why: expect.stringContaining('On USB only the 5 V rail has 0.5 A') },
    ]);
  });

  it('of a pack with more cells than the board takes blocks', () => {
    expect(powerFaults(cobbleF4Wing, wishes({}), deviceNames, 4)).toEqual([]);
    expect(powerFaults(cobbleF4Wing, wishes({}), deviceNames, 6)).toEqual([
      { severity: 'blocks', why: 'A full pack of 6 cells has 25.2 V; the board takes at most 18 V.' },
    ]);
  });

  it('is a voltage that a device does not take', () => {
    const high = { ...cobbleF4Wing, rails: [{ ...cobbleF4Wing.rails[0]!, volts: 9 }] };
    const why = powerFaults(high, wishes({ serial: [{ device: 'gnss' }] }), deviceNames, 3);
    expect(why[0]).toMatchObject({ severity: 'blocks', why: expect.stringContaining('takes 3.3 to 5.5 V') });
  });

  it('never feeds servos from USB', () => {
    for (const b of boards) expect(b.rails.find((r) => r.feeds === 'servos')!.usbA).toBe(0);
  });
});

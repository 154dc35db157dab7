import { beforeEach, describe, expect, it } from 'vitest';
import type { FlyingCraft } from '#bench/flyingCraft.ts';
import { turnstone } from '#core/airframe/library.ts';
import { ChipPicture } from '#core/overlay/chipBytes.ts';
import { BLANK, BLINKS } from '#core/overlay/glyphs.ts';
import { cellAt, placeKey } from '#core/overlay/items.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { telemetrySchemas } from '#core/wire/telemetry.ts';
import { aloft, onGround, run } from '../testing/aloft.ts';
import { told } from './told.ts';

const SWITCH = 12;
const shown: Values = {
  'overlay.system': 'ouzel',
  'overlay.channel': SWITCH,
  'overlay.words.1': 'TURNSTONE',
  [placeKey('a', 'words1')]: cellAt(0, 0),
  [placeKey('b', 'message')]: cellAt(3, 4),
};
/** Letters of a row of the picture that the board holds. */
const row = (f: FlyingCraft, at: number) => {
  const { overlay, controller } = f.pfad;
  const columns = controller.config.overlay.system!.columns;
  return String.fromCharCode(...overlay.cells.slice(at * columns, (at + 1) * columns)).trimEnd();
};
const heard = (f: FlyingCraft) => {
  const chip = new ChipPicture();
  f.pfad.overlay.onBytes = (bytes) => chip.receive(bytes);
  return chip;
};

describe('the overlay of a board on the ground', () => {
  let f: FlyingCraft;
  beforeEach(() => {
    f = onGround(turnstone, shown);
  });

  it('shows the layout that the switch asks for, and keeps it when the link is lost', () => {
    heard(f);
    f.radio.switchChannel = SWITCH;
    f.radio.switchUs = 1000;
    run(f, 0.5);
    expect([f.pfad.overlay.layout, row(f, 0), row(f, 3)]).toEqual(['a', 'TURNSTONE', '']);
    f.radio.switchUs = 1500;
    run(f, 0.5);
    expect([f.pfad.overlay.layout, row(f, 0)]).toEqual(['b', '']);
    f.radio.on = false;
    f.radio.switchUs = 1000;
    run(f, 3);
    expect(f.pfad.overlay.layout).toBe('b');
    expect(row(f, 3).trim()).toBe('No link');
  });

  it('says what keeps it from arming, and when nothing does', () => {
    f.radio.throttle = 0.5;
    run(f, 0.5);
    expect(f.pfad.overlay.view.message).toBe('');
    f.pfad.overlay.draw(f.pfad.controller);
    expect(f.pfad.overlay.view.message).toBe('Throttle is up');
    f.radio.throttle = 0;
    run(f, 0.5);
    f.pfad.overlay.draw(f.pfad.controller);
    expect(f.pfad.overlay.view.message).toBe('Ready to arm');
  });

  it('sends the whole picture once a second, so that a chip that starts late has it too', () => {
    let bytes = 0;
    f.pfad.overlay.onBytes = (b) => {
      bytes += b.length;
    };
    run(f, 3);
    const early = bytes;
    const chip = heard(f);
    run(f, 1.2);
    expect(chip.pictures).toBeGreaterThan(0);
    expect(Array.from(chip.shown)).toEqual(Array.from(f.pfad.overlay.cells));
    // Three whole ones of 53 by 20 cells with their heads, and next to nothing between.
    const whole = 20 * (4 + 2 * 53);
    expect(early).toBeGreaterThan(3 * whole - 1);
    expect(early).toBeLessThan(5 * whole);
  });

  it('throws away a picture that noise got into, and shows the next whole one', () => {
    const chip = new ChipPicture();
    let k = 0;
    f.pfad.overlay.onBytes = (bytes) => {
      const damaged = bytes.slice();
      if (k++ === 0) damaged[6] = damaged[6]! ^ 0x40;
      chip.receive(damaged);
    };
    run(f, 0.15);
    expect([chip.pictures, chip.faults]).toEqual([0, 1]);
    run(f, 1.5);
    expect(chip.faults).toBeLessThan(12);
    expect(Array.from(chip.shown)).toEqual(Array.from(f.pfad.overlay.cells));
  });

  it('tells over the link cell for cell what it draws', () => {
    f.pfad.overlay.draw(f.pfad.controller);
    // Only the overlay is asked for: what the readings tell is not looked at.
    const said = telemetrySchemas.overlay.parse(told('overlay', f.pfad, null as never));
    expect(said).toMatchObject({ columns: 53, layout: 'b' });
    expect(Array.from(said.cells)).toEqual(Array.from(f.pfad.overlay.cells));
    expect(said.cells).toHaveLength(53 * 20);
  });
});

describe('the overlay of a board without a picture', () => {
  it('sends nothing, and says over the link that it has none', () => {
    const f = onGround(turnstone);
    const chip = heard(f);
    run(f, 2);
    expect(chip.pictures).toBe(0);
    expect(telemetrySchemas.overlay.parse(told('overlay', f.pfad, null as never))).toMatchObject({
      columns: 0,
      cells: new Uint16Array(0),
    });
  });
});

describe('the overlay of a board in the air', () => {
  it('adds up what was flown, as it was truly flown', () => {
    const f = aloft(turnstone, { change: shown });
    heard(f);
    run(f, 3);
    const { view } = f.pfad.overlay;
    const [way0, air0] = [view.travelled, view.flownS];
    let way = 0;
    let amps = 0;
    run(f, 30, () => {
      way += Math.hypot(f.plant.velocity[0]!, f.plant.velocity[1]!) * 0.001;
      amps += f.pfad.controller.currentA / 30_000;
    });
    expect(Math.abs(view.flownS - air0 - 30)).toBeLessThan(0.25);
    // As well as the receiver tells the speed.
    expect(Math.abs((view.travelled - way0) / way - 1)).toBeLessThan(0.05);
    // Time left goes by the charge that is left and the current of the last half minute.
    expect(Math.abs((view.leftS * amps) / (3.6 * view.leftMah) - 1)).toBeLessThan(0.15);
    expect(view.message).toBe('');
  });

  it('blinks what passed its mark, and no more once it is back', () => {
    const at = cellAt(2, 0);
    const f = aloft(turnstone, {
      change: {
        ...shown,
        'overlay.channel': 0,
        [placeKey('a', 'height')]: at,
        'overlay.alarm.height.at': 120,
        'overlay.alarm.height.back': 5,
      },
    });
    heard(f);
    run(f, 3);
    const marks = () => {
      const columns = f.pfad.controller.config.overlay.system!.columns;
      const cells = [...f.pfad.overlay.cells.slice(2 * columns, 3 * columns)].filter((c) => c !== BLANK);
      return new Set(cells.map((c) => c & BLINKS));
    };
    expect(f.pfad.overlay.view.height).toBeGreaterThan(120);
    expect(marks()).toEqual(new Set([BLINKS]));
    f.plant.position[2] = f.plant.position[2]! + 60;
    f.pfad.controller.position.height -= 60;
    run(f, 2);
    expect(f.pfad.overlay.view.height).toBeLessThan(115);
    expect(marks()).toEqual(new Set([0]));
  });
});

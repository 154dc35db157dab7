import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { massifH7B } from '#core/board/boards.ts';
import { describeBoard } from '#core/board/describe.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { anyChanges } from '../testing/anySettings.ts';
import { demoValues } from '../testing/demoCraft.ts';
import { OUTPUT_COUNT } from './catalogue/counts.ts';
import { pfadCatalogue } from './catalogue.ts';
import { compileConfig } from './config.ts';

/** Of the board with the most outputs. */
const { pads } = describeBoard(massifH7B);

describe('the configuration', () => {
  it('reads every setting there is: none is without effect', () => {
    const read = new Set<string>();
    const values = new Proxy({ ...demoValues('turnstone') } as Record<string, number>, {
      get(target, key: string) {
        read.add(key);
        return target[key];
      },
    });
    compileConfig(values as Values, pads);
    const unread = pfadCatalogue.entries.map((e) => e.key).filter((k) => !read.has(k));
    // Ports, the receiver’s wire and what the GNSS receiver is asked for are read where the wires are: on the bench. Arms are of rotors that go by them.
    const elsewhere =
      /^(port\.\d\.use|gnss\.(baud|rate|view|systems)|mix\.rotors|rx\.(levels|wires)|out\.\d+\.(armRight|armAhead|turns))$/;
    expect(unread.filter((k) => !elsewhere.test(k))).toEqual([]);
    expect(unread).toHaveLength(14 + 3 * OUTPUT_COUNT);
  });

  it('is finite whatever the board accepts', () => {
    const finite = (x: unknown, path: string): void => {
      if (typeof x === 'number') expect(Number.isFinite(x), path).toBe(true);
      else if (x && typeof x === 'object') for (const [k, v] of Object.entries(x)) finite(v, `${path}.${k}`);
      else expect(x, path).toBeDefined();
    };
    fc.assert(
      fc.property(anyChanges(150), (change) => {
        finite(compileConfig({ ...pfadCatalogue.defaults(), ...change }, pads), 'config');
      }),
      { numRuns: 60 },
    );
  });

  it('turns degrees into radians and rates into steps', () => {
    const c = compileConfig({ ...demoValues('turnstone'), 'level.bank': 45, 'timer.2.rate': '200' }, pads);
    expect(c.sets[0]!.bank).toBeCloseTo(Math.PI / 4, 12);
    expect(c.outputs[2]!.everySteps).toBe(5);
    expect(c.outputs[4]!.everySteps).toBe(20);
  });
});

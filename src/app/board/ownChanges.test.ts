import { describe, expect, it } from 'vitest';
import { OwnChanges } from './OwnChanges.ts';

/** A board whose settings are known by a print; reading them takes as long as one lets it. */
function watched(known: string | undefined) {
  const now = { known, busy: false, reads: 0 };
  let end: (fault?: Error) => void = () => {};
  const own = new OwnChanges({
    known: () => now.known,
    busy: () => now.busy,
    read: () => {
      now.reads++;
      return new Promise<void>((resolve, reject) => {
        end = (fault) => (fault ? reject(fault) : resolve());
      });
    },
  });
  const ended = async (fault?: Error) => {
    end(fault);
    await new Promise((resolve) => setTimeout(resolve));
  };
  return { own, now, ended };
}

describe('what a board says of its settings', () => {
  it('leads to no reading while it is what is known, nothing is known, it says nothing, or it is written to', () => {
    const { own, now } = watched('a1');
    own.told('a1');
    own.told('');
    now.busy = true;
    own.told('b2');
    expect(now.reads).toBe(0);
    const stranger = watched(undefined);
    stranger.own.told('b2');
    expect(stranger.now.reads).toBe(0);
  });

  it('leads to one reading however often it is said meanwhile, and to another once that ended and it is still other', async () => {
    const { own, now, ended } = watched('a1');
    for (let k = 0; k < 20; k++) own.told('b2');
    expect(now.reads).toBe(1);
    await ended();
    now.known = 'b2';
    own.told('b2');
    expect(now.reads).toBe(1);
    own.told('c3');
    expect(now.reads).toBe(2);
  });

  it('is asked again after a cable was pulled in the middle', async () => {
    const { own, now, ended } = watched('a1');
    own.told('b2');
    await ended(new Error('the cable is out'));
    own.told('b2');
    expect(now.reads).toBe(2);
  });
});

import { beforeEach, describe, expect, it } from 'vitest';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { demoCraft, demoValues, torvholm } from '../../testing/demoCraft.ts';
import { craftLoaded } from '../store/craftSlice.ts';
import { craftOpened, initialSettings } from '../store/settingsSlice.ts';
import { siteTaken } from '../store/siteSlice.ts';
import { makeStore } from '../store/store.ts';
import { stickLearnt } from './learnStick.ts';

const { entries, rules } = pfadCatalogue;
let store: ReturnType<typeof makeStore>;
let learn: (stick: string, channel: number, fromUs: number, toUs: number) => string;

beforeEach(() => {
  store = makeStore();
  store.dispatch(craftLoaded({ ...demoCraft('turnstone'), proofs: [] }));
  store.dispatch(siteTaken({ site: torvholm, named: true }));
  const base = {
    ...demoValues('turnstone'),
    'rx.roll.channel': 1,
    'rx.pitch.channel': 2,
    'rx.throttle.channel': 3,
  };
  store.dispatch(craftOpened({ ...initialSettings, entries, rules, version: '3.2', base }));
  const lesson = stickLearnt(store);
  learn = (stick, channel, fromUs, toUs) => lesson({ stick }, { channel, fromUs, toUs });
});

const proofs = () => store.getState().craft.proofs.map((p) => p.id);

describe('what is made of a stick that was moved', () => {
  it('is kept where nothing speaks against it', () => {
    expect(learn('roll', 1, 1500, 1990)).toContain('so it carries roll');
    expect(proofs()).toEqual(['stick.roll']);
  });

  it('is not kept of a stick that was moved half the way', () => {
    expect(learn('roll', 1, 1500, 1700)).toContain('moved by 200 µs only');
    expect(proofs()).toEqual([]);
    expect(store.getState().settings.edits).toEqual({});
  });

  it('is not kept where the channel was seen to carry another stick: asked for roll, pitch moved', () => {
    learn('pitch', 2, 1500, 1000);
    const said = learn('roll', 2, 1500, 1990);
    expect(said).toContain('Channel 2 moved, and that one was seen to carry pitch');
    expect(proofs()).toEqual(['stick.pitch']);
    expect(store.getState().settings.edits['rx.roll.channel']).toBeUndefined();
  });

  it('says that two trade places, so that a wrong stick is noticed at once', () => {
    expect(learn('roll', 3, 1000, 1990)).toContain('If it was the throttle stick that you pushed, ask again');
    expect(store.getState().settings.edits).toMatchObject({ 'rx.roll.channel': 3, 'rx.throttle.channel': 1 });
  });
});

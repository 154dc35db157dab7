import { describe, expect, it } from 'vitest';
import { receiverHeard } from './hearReceiver.ts';

/** What is said and staged of what a board heard, by the values it holds. */
function told(found: Record<string, string | number | boolean>, base = {}) {
  const held = {
    'rx.protocol': 'crsf',
    'rx.levels': 'usual',
    'rx.wires': 'two',
    'port.2.use': 'receiver',
    'port.5.use': 'free',
    ...base,
  };
  const staged: object[] = [];
  const store = {
    getState: () => ({ settings: { base: held, edits: {} } }),
    dispatch: ({ payload }: { payload: object }) => staged.push(payload),
  } as unknown as Parameters<typeof receiverHeard>[0];
  return { says: receiverHeard(store)({}, found), staged: Object.assign({}, ...staged) as object };
}

describe('what was heard of a receiver', () => {
  const found = { kind: 'found', protocol: 'sbus', turned: false, oneWire: false, port: 0 };
  it('goes into the tray: protocol, levels, wire, and the port it hangs on', () => {
    expect(told(found)).toMatchObject({
      says: 'It speaks SBUS: that is in the tray. It takes effect with a restart.',
      staged: { 'rx.protocol': 'sbus' },
    });
    expect(told({ ...found, protocol: 'crsf' })).toMatchObject({
      says: 'It speaks CRSF, as the board is set.',
      staged: {},
    });
    expect(told({ ...found, turned: true, oneWire: true }).staged).toEqual({
      'rx.protocol': 'sbus',
      'rx.levels': 'turned',
      'rx.wires': 'one',
    });
    expect(told({ ...found, port: 5 }).staged).toEqual({
      'rx.protocol': 'sbus',
      'port.2.use': 'free',
      'port.5.use': 'receiver',
    });
  });

  it('says what it may be where nothing whole was heard, and sets nothing', () => {
    for (const kind of ['garbage', 'silent']) expect(told({ kind, protocol: '' }).staged).toEqual({});
    expect(told({ kind: 'silent', protocol: '' }).says).toContain('Look at its lamp');
    expect(told({ ...found, protocol: 'morse' })).toMatchObject({
      says: 'It speaks morse, which the board cannot be set to.',
      staged: {},
    });
  });

  it('of a board that makes no sense, or lacks the newer settings, stages only what it has', () => {
    expect(() => told({ kind: 'loud' })).toThrow('makes no sense here');
    const old = told({ ...found, turned: true }, { 'rx.levels': undefined, 'rx.wires': undefined });
    expect(old.staged).toEqual({ 'rx.protocol': 'sbus' });
  });
});

import { nanoid } from '@reduxjs/toolkit';
import { notify } from '../notify.tsx';
import { goToSiteOf } from '../sites.ts';
import { rows } from '../store/database.ts';
import { store } from '../store/store.ts';
import { bench } from '../workers/index.ts';
import { Desk } from './Desk.ts';
import { TabHold } from './hold.ts';
import { records } from './kept.ts';

const TAB = 'wanderweg craft';

/** The desk of this tab. */
export const desk = new Desk({
  store,
  records,
  rows,
  hold: new TabHold(),
  bench,
  known: () => bench.knownFirmware(),
  goTo: async (site, home) => {
    const { home: there, year } = await goToSiteOf(site, home);
    await bench.carry({ home: there, year });
  },
  leaveBoard: async () => (await import('../board/session.ts')).boardSession.disconnect(),
  tab: {
    get: () => {
      try {
        return sessionStorage.getItem(TAB);
      } catch {
        return null;
      }
    },
    set: (id) => {
      try {
        sessionStorage.setItem(TAB, id);
      } catch {
        // A browser that keeps nothing begins anew after a reload; the banner about storage says so.
      }
    },
  },
  newId: () => nanoid(10),
  say: (text, action) => void notify(text, action),
});

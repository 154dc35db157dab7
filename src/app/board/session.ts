import { history } from '../history/index.ts';
import { clearTelemetry, takeTelemetry } from '../live/telemetry.ts';
import { notify } from '../notify.tsx';
import { store } from '../store/store.ts';
import { bench } from '../workers/index.ts';
import { BoardSession } from './BoardSession.ts';
import { benchPort } from './ports/benchPort.ts';

/** The one session of this page, with the browser's own parts. */
export const boardSession = new BoardSession(
  {
    store,
    clock: { pause: (ms) => new Promise((resolve) => setTimeout(resolve, ms)) },
    storage: {
      met: (identity, values) => history.keepMet(identity, values),
      written: (identity, values) => history.keep('written', identity, values),
    },
    known: () => bench.knownFirmware(),
    live: { take: takeTelemetry, clear: clearTelemetry },
    say: (text, action) => void notify(text, action),
  },
  benchPort,
);

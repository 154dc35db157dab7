import { saveText } from '../files.ts';
import { notify } from '../notify.tsx';
import { rows } from '../store/database.ts';
import { store } from '../store/store.ts';
import { workshop } from '../workers/index.ts';
import { History } from './History.ts';

/** The history of settings in this browser. */
export const history = new History({
  store,
  storage: rows,
  now: () => new Date().toISOString(),
  read: (text) => workshop().readHistory(text),
  save: saveText,
  say: (text, action) => void notify(text, action),
});

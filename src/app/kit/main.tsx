import '@fontsource/barlow/latin-400.css';
import '@fontsource/barlow/latin-500.css';
import '@fontsource/barlow/latin-600.css';
import '@fontsource/barlow-semi-condensed/latin-500.css';
import '@fontsource/barlow-semi-condensed/latin-600.css';
import '@fontsource/ibm-plex-mono/latin-400.css';
import '../styles.css';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { store } from '../store/store.ts';
import { Kit } from './Kit.tsx';

createRoot(document.getElementById('root')!).render(
  <Provider store={store}>
    <Kit />
  </Provider>,
);

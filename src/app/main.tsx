import '@fontsource/barlow/latin-400.css';
import '@fontsource/barlow/latin-500.css';
import '@fontsource/barlow/latin-600.css';
import '@fontsource/barlow-semi-condensed/latin-500.css';
import '@fontsource/barlow-semi-condensed/latin-600.css';
import '@fontsource/ibm-plex-mono/latin-400.css';
import '@fontsource/ibm-plex-mono/latin-500.css';
import './styles.css';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { BrowserRouter } from 'react-router';
import * as z from 'zod';
import { App } from './App.tsx';
import { takeFilesFromOutside } from './offline/filesFromOutside.ts';
import { keepForOffline } from './offline/serviceWorker.ts';
import { start } from './session.ts';
import { store } from './store/store.ts';

// The Content-Security-Policy allows no code made at run time.
z.config({ jitless: true });

void start();
keepForOffline();
takeFilesFromOutside();
createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <Provider store={store}>
      <BrowserRouter>
        <App />
      </BrowserRouter>
    </Provider>
  </StrictMode>,
);

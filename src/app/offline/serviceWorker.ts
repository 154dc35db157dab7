import { store } from '../store/store.ts';
import { uiChanged } from '../store/uiSlice.ts';

/** The page has what it needs first; what makes it work without its server is fetched behind that, ms. */
const BEHIND_MS = 2500;
/** A page that stays open for days asks for a newer application this often, ms. */
const ASKS_AGAIN_MS = 3_600_000;

let take: (() => Promise<void>) | null = null;

/** Keeps the whole application in the browser, so that it opens without network and without its server. */
export function keepForOffline(): void {
  if (!('serviceWorker' in navigator) || import.meta.env.DEV) return;
  setTimeout(async () => {
    const { registerSW } = await import('virtual:pwa-register');
    const update = registerSW({
      onNeedRefresh: () => store.dispatch(uiChanged({ updateWaits: true })),
      onRegisteredSW: (_, registration) => {
        if (registration) setInterval(() => void registration.update().catch(() => {}), ASKS_AGAIN_MS);
      },
    });
    take = () => {
      // On a page that was open before the first one was kept, nobody else loads it anew.
      navigator.serviceWorker.addEventListener('controllerchange', () => location.reload(), { once: true });
      return update(true);
    };
    // What is kept should not be thrown away when the disk runs full.
    await navigator.storage?.persist?.().catch(() => false);
  }, BEHIND_MS);
}

/** Goes over to the newer application that waits; the page is loaded anew. */
export const takeUpdate = async (): Promise<void> => {
  await take?.();
};

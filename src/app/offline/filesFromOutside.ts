import { notify } from '../notify.tsx';
import { store } from '../store/store.ts';
import { uiChanged } from '../store/uiSlice.ts';

interface LaunchQueue {
  setConsumer(take: (params: { readonly files: readonly { getFile(): Promise<File> }[] }) => void): void;
}

async function open(file: File): Promise<void> {
  const { openAny } = await import('./openAny.ts');
  const { ok, says } = await openAny(file);
  if (ok) void notify(says);
  else store.dispatch(uiChanged({ refusedEntry: says }));
}

/** Takes files that are dropped anywhere on the page, and those that are opened from the desktop. */
export function takeFilesFromOutside(): void {
  const carriesFiles = (e: DragEvent) => e.dataTransfer?.types.includes('Files') ?? false;
  window.addEventListener('dragover', (e) => {
    // Without this the browser would leave the page for the file.
    if (carriesFiles(e)) e.preventDefault();
  });
  window.addEventListener('drop', (e) => {
    if (!carriesFiles(e)) return;
    e.preventDefault();
    const file = e.dataTransfer?.files[0];
    if (file) void open(file);
  });
  (window as { launchQueue?: LaunchQueue }).launchQueue?.setConsumer(async ({ files }) => {
    const [first] = files;
    if (first) await open(await first.getFile());
  });
}

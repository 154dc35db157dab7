import { defineConfig } from '@playwright/test';
import { chromiumArgs, findChromium } from './tools/chromium.mjs';

const port = Number(process.env.E2E_PORT ?? 4379);

export default defineConfig({
  testDir: 'tests/e2e',
  timeout: 400_000,
  // Machines have slow moments; what is looked for has to come, not to be quick (`npm run bench` measures that).
  expect: { timeout: 20_000 },
  // Pages mostly wait; flights in many winds are the one that does not.
  workers: 2,
  reporter: [['list']],
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    // Each page would fetch all of it once more; `offline.spec.ts` allows it.
    serviceWorkers: 'block',
    launchOptions: {
      executablePath: findChromium() ?? '/usr/bin/chromium',
      args: chromiumArgs,
    },
  },
  webServer: {
    command: `node bin/wanderweg.mjs serve --port ${port}`,
    url: `http://127.0.0.1:${port}`,
    reuseExistingServer: false,
  },
});

import { existsSync } from 'node:fs';

/** Debian's Chromium, or the one that CHROMIUM names. */
export function findChromium() {
  const places = [process.env.CHROMIUM, '/usr/bin/chromium', '/usr/bin/chromium-browser'].filter(Boolean);
  return places.find((p) => existsSync(p));
}

/**
 * Quiet on a closed network, and able to draw WebGL without a graphics card. Pages themselves are put together by the
 * processor: through the emulated card each frame takes up to 200 ms.
 */
export const chromiumArgs = [
  '--no-sandbox',
  '--disable-gpu-compositing',
  '--use-angle=swiftshader',
  '--enable-unsafe-swiftshader',
  '--ignore-gpu-blocklist',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];

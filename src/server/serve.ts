import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import express, { type Express } from 'express';
import helmet from 'helmet';
import { complain, say } from '#cli/output.ts';
import type { BoardHost } from './boardHost.ts';
import { serveBoard } from './boardSocket.ts';
import { isOwnHost, isOwnOrigin } from './ownHosts.ts';

const DEFAULT_PORT = 4310;
const APP = fileURLToPath(new URL('../../dist/app', import.meta.url));
const FIRMWARE = fileURLToPath(new URL('../../dist/firmware', import.meta.url));

/** The built application and the releases of firmware behind a strict Content-Security-Policy. */
export function createServer(root = APP, firmware = FIRMWARE): Express {
  const app = express();
  app.disable('x-powered-by');
  // First, so that every page has them, refusals and faults among them.
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'none'"],
          scriptSrc: ["'self'"],
          workerSrc: ["'self'"],
          // Radix and uPlot place things by style attributes; no style sheet comes from elsewhere.
          styleSrc: ["'self'", "'unsafe-inline'"],
          fontSrc: ["'self'"],
          imgSrc: ["'self'", 'data:'],
          // A board process of this machine.
          connectSrc: ["'self'", 'ws://127.0.0.1:*', 'ws://localhost:*'],
          manifestSrc: ["'self'"],
          baseUri: ["'none'"],
          formAction: ["'none'"],
          frameAncestors: ["'none'"],
        },
      },
      strictTransportSecurity: false,
    }),
  );
  app.use((request, response, next) => {
    if (!isOwnHost(request.headers.host) || !isOwnOrigin(request.headers.origin)) {
      response
        .status(403)
        .type('text')
        .send('Wanderweg answers only on this machine, under 127.0.0.1 or localhost.\n');
      return;
    }
    next();
  });
  app.use('/assets', express.static(`${root}/assets`, { immutable: true, maxAge: '1y', fallthrough: false }));
  // The stand-in for a release service: a catalogue and the images that it names.
  app.use('/releases', express.static(firmware, { index: false, dotfiles: 'deny', fallthrough: false }));
  app.use(express.static(root, { index: false, dotfiles: 'deny' }));
  app.get(/.*/, (request, response) => {
    // Addresses of the application have no dot; anything else is a file that is not there.
    if (/\.[^/]*$/.test(request.path)) response.status(404).type('text').send('There is no such file.\n');
    else response.set('Cache-Control', 'no-cache').sendFile('index.html', { root });
  });
  app.use(
    (_error: unknown, _request: express.Request, response: express.Response, _next: express.NextFunction) => {
      response.status(404).type('text').send('There is no such file.\n');
    },
  );
  return app;
}

/** Serves until stopped. @param bench shared with every page, at /board. @returns an exit code when it cannot */
export async function serve(portText: string | undefined, bench: BoardHost | null = null): Promise<number> {
  const port = portText === undefined || portText === '' ? DEFAULT_PORT : Number(portText);
  if (!Number.isInteger(port) || port < 1 || port > 65535) {
    complain(`"${portText}" is no port; it is a whole number from 1 to 65535.\n`);
    return 2;
  }
  if (!existsSync(`${APP}/index.html`)) {
    complain('The application is not built yet: run npm start, which builds it.\n');
    return 2;
  }
  return await new Promise((resolve) => {
    const server = createServer().listen(port, '127.0.0.1');
    if (bench) serveBoard(server, bench, '/board');
    server.on('listening', () => {
      say(`Wanderweg is on http://127.0.0.1:${port}\n`);
      if (bench) say(`${bench.name} is on ws://127.0.0.1:${port}/board\n`);
    });
    server.on('error', (error: NodeJS.ErrnoException) => {
      const why =
        error.code === 'EADDRINUSE'
          ? 'is in use by another program; set PORT to another one'
          : 'cannot be opened';
      complain(`Port ${port} ${why}.\n`);
      resolve(1);
    });
    for (const signal of ['SIGINT', 'SIGTERM'] as const) {
      process.once(signal, () => {
        bench?.stop();
        server.close(() => resolve(0));
        server.closeAllConnections();
      });
    }
  });
}

import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import express, { type Express } from 'express';
import helmet from 'helmet';

const DEFAULT_PORT = 4310;
const APP = fileURLToPath(new URL('../../dist/app', import.meta.url));
const FIRMWARE = fileURLToPath(new URL('../../dist/firmware', import.meta.url));

/** Names under which this machine may be asked; anything else could be a page from elsewhere that rebinds its name. */
const OWN_HOSTS = /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/;

/** The built application and the releases of firmware behind a strict Content-Security-Policy. */
export function createServer(root = APP, firmware = FIRMWARE): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use((request, response, next) => {
    const origin = request.headers.origin;
    const originHost = origin === undefined ? undefined : URL.canParse(origin) ? new URL(origin).host : '';
    if (
      !OWN_HOSTS.test(request.headers.host ?? '') ||
      (originHost !== undefined && !OWN_HOSTS.test(originHost))
    ) {
      response
        .status(403)
        .type('text')
        .send('Wanderweg answers only on this machine, under 127.0.0.1 or localhost.\n');
      return;
    }
    next();
  });
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
          connectSrc: ["'self'"],
          manifestSrc: ["'self'"],
          baseUri: ["'none'"],
          formAction: ["'none'"],
          frameAncestors: ["'none'"],
        },
      },
      strictTransportSecurity: false,
    }),
  );
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

/** Serves until stopped. @returns an exit code when it cannot */
export async function serve(portText: string | undefined): Promise<number> {
  const port = portText === undefined || portText === '' ? DEFAULT_PORT : Number(portText);
  if (!Number.isInteger(port) || port < 1 || port > 65535) {
    process.stderr.write(`"${portText}" is no port; it is a whole number from 1 to 65535.\n`);
    return 2;
  }
  if (!existsSync(`${APP}/index.html`)) {
    process.stderr.write('The application is not built yet: run npm start, which builds it.\n');
    return 2;
  }
  return await new Promise((resolve) => {
    const server = createServer().listen(port, '127.0.0.1');
    server.on('listening', () => process.stdout.write(`Wanderweg is on http://127.0.0.1:${port}\n`));
    server.on('error', (error: NodeJS.ErrnoException) => {
      const why =
        error.code === 'EADDRINUSE'
          ? 'is in use by another program; set PORT to another one'
          : 'cannot be opened';
      process.stderr.write(`Port ${port} ${why}.\n`);
      resolve(1);
    });
    for (const signal of ['SIGINT', 'SIGTERM'] as const) {
      process.once(signal, () => {
        server.close(() => resolve(0));
        server.closeAllConnections();
      });
    }
  });
}

import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { request, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createServer } from './serve.ts';

let server: Server;
let port = 0;

beforeAll(async () => {
  const root = mkdtempSync(join(tmpdir(), 'wanderweg-app-'));
  mkdirSync(join(root, 'assets'));
  writeFileSync(join(root, 'index.html'), '<!doctype html><title>app</title>');
  writeFileSync(join(root, 'assets', 'a.js'), 'export {}');
  const firmware = mkdtempSync(join(tmpdir(), 'wanderweg-firmware-'));
  writeFileSync(join(firmware, 'catalogue.json'), '{"releases":[]}');
  server = createServer(root, firmware).listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  port = (server.address() as AddressInfo).port;
});
afterAll(() => server.close());

/** Raw, since fetch tidies paths and sets the host itself. */
function get(
  path: string,
  headers: Record<string, string> = {},
): Promise<{ status: number; headers: Record<string, unknown>; body: string }> {
  return new Promise((resolve, reject) => {
    const r = request(
      { host: '127.0.0.1', port, path, headers: { host: `127.0.0.1:${port}`, ...headers } },
      (res) => {
        let body = '';
        res.on('data', (d: Buffer) => {
          body += d.toString();
        });
        res.on('end', () => resolve({ status: res.statusCode!, headers: res.headers, body }));
      },
    );
    r.on('error', reject);
    r.end();
  });
}

describe('the server', () => {
  it('serves the application at every address of its own, under a strict policy', async () => {
    for (const path of ['/', '/steer/which-moved']) {
      const page = await get(path);
      expect(page.status).toBe(200);
      const policy = String(page.headers['content-security-policy']);
      expect(policy).toContain("default-src 'none'");
      expect(policy).toContain("script-src 'self'");
      expect(policy).not.toContain('unsafe-eval');
    }
  });

  it('answers only to its own names and origins', async () => {
    expect((await get('/', { host: 'elsewhere.example' })).status).toBe(403);
    expect((await get('/', { origin: 'http://elsewhere.example' })).status).toBe(403);
    expect((await get('/', { origin: 'null' })).status).toBe(403);
    expect((await get('/', { origin: `http://localhost:${port}` })).status).toBe(200);
  });

  it('leads out of its folder by no path', async () => {
    for (const path of [
      '/../../etc/passwd',
      '/%2e%2e/%2e%2e/etc/passwd',
      '/assets/..%2f..%2fpackage.json',
      '/.git/config',
      '/nothing.js',
      '/%',
    ]) {
      const page = await get(path);
      expect(page.body).not.toContain('root:');
      // An address without a dot is one of the application's own and gets its page, never a file.
      if (page.status === 200) expect(page.body).toContain('<title>app</title>');
      else expect([400, 403, 404]).toContain(page.status);
    }
  });

  it('gives the releases and nothing beside them', async () => {
    expect(await get('/releases/catalogue.json')).toMatchObject({ status: 200, body: '{"releases":[]}' });
    for (const path of [
      '/releases/',
      '/releases/none.hex',
      '/releases/../a.js',
      '/releases/%2e%2e/package.json',
    ])
      expect((await get(path)).status).toBe(404);
    expect((await get('/releases/catalogue.json', { host: 'elsewhere.example' })).status).toBe(403);
  });
});

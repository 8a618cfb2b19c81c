import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { request as rawRequest } from 'node:http';
import { scratchFolder } from '@bluster/media/testing/made-media';
import { RunningServer } from '../testing/running-server.ts';

let server: RunningServer;
beforeAll(async () => {
  server = await RunningServer.start(scratchFolder());
});
afterAll(() => server.stop());

function statusWith(headers: Record<string, string>, path = '/api/projects'): Promise<number> {
  return new Promise((resolve, reject) => {
    const { port } = new URL(server.url);
    rawRequest({ host: '127.0.0.1', port, path, headers }, (response) => {
      response.resume();
      resolve(response.statusCode!);
    })
      .on('error', reject)
      .end();
  });
}

test('answers its own pages only', async () => {
  const { host } = new URL(server.url);
  expect(await statusWith({ host })).toBe(200);
  expect(await statusWith({ host, origin: server.url })).toBe(200);
  expect(await statusWith({ host: host.replace('127.0.0.1', 'localhost') })).toBe(200);
  expect(await statusWith({ host: 'kites.example' })).toBe(403);
  expect(await statusWith({ host: 'kites.example:4870' })).toBe(403);
  expect(await statusWith({ host, origin: 'http://kites.example' })).toBe(403);
  expect(await statusWith({ host, origin: 'null' })).toBe(403);
  expect(await statusWith({ host, 'sec-fetch-site': 'cross-site' })).toBe(403);
  // A page of another port of this computer is of the same site, and not this server's.
  expect(await statusWith({ host, 'sec-fetch-site': 'same-site' })).toBe(403);
  expect(await statusWith({ host, 'sec-fetch-site': 'same-origin' })).toBe(200);
  expect(await statusWith({ host, origin: 'not an address' })).toBe(403);
  expect(await statusWith({ host, origin: 'http://[' })).toBe(403);
});

test('pages may load nothing from elsewhere', async () => {
  const { headers } = await server.http.get('/api/projects');
  expect(headers['content-security-policy']).toMatch(/default-src 'self'/);
  expect(headers['x-content-type-options']).toBe('nosniff');
  const refused = await server.http.get('/api/projects').set('Origin', 'http://kites.example').expect(403);
  expect(refused.headers['x-content-type-options']).toBe('nosniff');
});

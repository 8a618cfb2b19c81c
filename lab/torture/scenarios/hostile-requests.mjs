import { execFileSync } from 'node:child_process';
import { request } from 'node:http';
import { join, resolve } from 'node:path';
import { ownServer } from '../../../scripts/own-server.mjs';
import { sendFile } from '../../../scripts/tus-upload.mjs';
import { ask, mustAsk } from '../asking.mjs';
import { montageOf } from '../material.mjs';
import { Broken } from '../tally.mjs';
import { doctorSilent, idle } from '../whole.mjs';

const root = resolve(import.meta.dirname, '../../..');
const METHODS = ['get', 'post', 'put', 'patch', 'delete'];

const HOSTILE_TEXTS = [
  '', ' ', '0', '-1', '1e999', 'null', 'undefined', '../../etc/passwd', '..%2f..%2fbluster.sqlite', '%00', '%', '\u0000', "' OR 1=1 --",
  '<script>alert(1)</script>', '__proto__', 'constructor', 'x'.repeat(5000), '\u202egnp.exe', '🪁'.repeat(200), '00000000-0000-0000-0000-000000000000',
]; // oxfmt-ignore

/** Any value, deep or large. */
function anyValue(random, depth = 0) {
  const leaf = [
    () => null,
    () => random.chance(0.5),
    () => random.pick([0, -1, 1, 0.5, 1e308, -1e308, 2 ** 53, 2 ** 31, 1e-320]),
    () => random.pick(HOSTILE_TEXTS),
  ];
  if (depth > 3 || random.chance(0.5)) return random.pick(leaf)();
  const count = random.between(0, 4);
  if (random.chance(0.5)) return Array.from({ length: count }, () => anyValue(random, depth + 1));
  const keys = ['name', 'revision', 'document', 'preset', 'reason', '__proto__', 'constructor', 'id', 'of', 'toString'];
  return Object.fromEntries(Array.from({ length: count }, () => [random.pick(keys), anyValue(random, depth + 1)]));
}

/** A value as the description wants it, mostly. */
function wanted(schema, schemas, random) {
  if (!schema || random.chance(0.15)) return anyValue(random);
  if (schema.$ref) return wanted(schemas[schema.$ref.split('/').at(-1)], schemas, random);
  if (schema.enum) return random.pick(schema.enum);
  if (schema.properties)
    return Object.fromEntries(Object.entries(schema.properties).map(([key, value]) => [key, wanted(value, schemas, random)]));
  if (schema.type === 'string') return random.chance(0.5) ? 'Kites' : random.pick(HOSTILE_TEXTS);
  if (schema.type === 'integer' || schema.type === 'number') return random.pick([1, 2, 0, -1, 1e9]);
  return anyValue(random);
}

/**
 * A request that fetch would not let through, by its headers.
 * @returns {Promise<any>} status, text and headers
 */
function rawRequest(base, path, headers) {
  const { hostname, port } = new URL(base);
  return new Promise((done, failed) => {
    const sent = request({ hostname, port, path, headers }, (response) => {
      let text = '';
      response.on('data', (chunk) => (text += chunk));
      response.on('end', () => done({ status: response.statusCode, text, headers: response.headers }));
    });
    sent.on('error', failed);
    sent.end();
  });
}

/** Requests over every route that the server has, by its own description: none may end as a fault, and nothing that is there may change. */
export const hostileRequests = {
  name: 'hostile requests',
  async run({ random, material, folder, over, tally }) {
    const described = execFileSync(process.execPath, [join(root, 'apps/server/dist/describe.js')], {
      maxBuffer: 1 << 26,
      encoding: 'utf8',
    });
    const { paths, components } = JSON.parse(described);
    const routes = Object.entries(paths).flatMap(([path, ways]) =>
      METHODS.filter((method) => ways[method]).map((method) => ({ path, method, way: ways[method] })),
    );
    if (routes.length < 20) throw new Broken(`the description names ${routes.length} routes only`);
    tally.count('routes', routes.length);
    const server = await ownServer({ folder });
    const { base } = server;
    const { id: quiet } = await mustAsk(base, 'POST', '/api/projects', { name: 'Quiet' });
    await sendFile(base, { project: quiet, role: 'song', ...material.small.song });
    await sendFile(base, { project: quiet, role: 'footage', ...material.small.clip });
    await idle(base);
    const assets = await mustAsk(base, 'GET', `/api/projects/${quiet}/assets`);
    const document = montageOf(
      assets.find(({ kind }) => kind === 'song'),
      assets.filter(({ kind }) => kind === 'clip'),
    );
    await mustAsk(base, 'PUT', `/api/projects/${quiet}/montage`, { revision: 1, document });
    const before = JSON.stringify(await mustAsk(base, 'GET', `/api/projects/${quiet}/montage`));
    const { id: other } = await mustAsk(base, 'POST', '/api/projects', { name: 'Attacked' });
    const idsOf = [other, ...HOSTILE_TEXTS, other.toUpperCase(), '7b0c9a3e-1c1f-4f43-9b1c-3a3f7d3e2a11'];
    do {
      const { path, method, way } = random.pick(routes);
      // Ids of the quiet project are asked for and never changed.
      const ids = method === 'get' ? [...idsOf, quiet, ...assets.map(({ id }) => id)] : idsOf;
      const address =
        path.replace(/\{\w+\}/g, () => encodeURIComponent(random.pick(ids))) +
        (random.chance(0.3)
          ? `?${random.pick(['of', 'role', 'again', 'x'])}=${encodeURIComponent(random.pick([...HOSTILE_TEXTS, ...assets.map(({ id }) => `${id}.0`)]))}`
          : '');
      const schema = way.requestBody?.content?.['application/json']?.schema;
      const body =
        method === 'get' || method === 'delete'
          ? undefined
          : random.chance(0.1)
            ? random.pick([
                '{',
                '[]',
                '"x"',
                'null',
                '',
                `${'['.repeat(20_000)}${']'.repeat(20_000)}`,
                '{"revision":1,"document":{"__proto__":{}}}',
              ])
            : JSON.stringify(wanted(schema, components?.schemas ?? {}, random));
      /** @type {Record<string, string>} */
      const headers = random.chance(0.1)
        ? {
            'content-type': random.pick([
              'text/plain',
              'application/xml',
              'multipart/form-data; boundary=x',
              'application/json; charset=utf-7',
            ]),
          }
        : {};
      // What follows changes has no end of its own.
      const stop = AbortSignal.timeout(/changes/.test(path) ? 150 : 120_000);
      const { status, answer, text } = await ask(base, method.toUpperCase(), address, body, { headers, signal: stop }).catch((error) => {
        if (/changes/.test(path)) return { status: 200, answer: null, text: '' };
        throw error;
      });
      tally.count('requests');
      if (status === 0) throw new Broken(`${method} ${address.slice(0, 200)} was not answered`);
      if (status >= 500 && status !== 507)
        throw new Broken(`${method} ${address.slice(0, 200)} with ${body?.slice(0, 200)}: ${status} ${text.slice(0, 200)}`);
      if (status >= 400) tally.refusal(answer?.message, `${method} ${path}`);
      if (/root:.*:0:0|SQLite format/.test(text)) throw new Broken(`${method} ${address} gives away a file of this computer`);
      if (random.chance(0.05)) {
        const evil = random.pick([
          { host: 'evil.example' },
          { host: new URL(base).host, origin: 'https://evil.example' },
          { host: new URL(base).host, 'sec-fetch-site': 'cross-site', origin: 'null' },
          { host: new URL(base).host, 'sec-fetch-site': 'same-site' },
        ]);
        const refused = await rawRequest(base, '/api/projects', evil);
        if (refused.status !== 403) throw new Broken(`a request with ${JSON.stringify(evil)} was answered with ${refused.status}`);
        tally.refusal(JSON.parse(refused.text).message, 'a stranger');
        if (refused.headers['x-content-type-options'] !== 'nosniff') throw new Broken('a refusal may be sniffed');
        tally.count('strangers turned away');
      }
    } while (!over());
    if (JSON.stringify(await mustAsk(base, 'GET', `/api/projects/${quiet}/montage`)) !== before)
      throw new Broken('a montage that nobody saved has changed');
    if (!(await mustAsk(base, 'GET', '/api/projects')).some(({ id }) => id === quiet))
      throw new Broken('a project that nobody deleted is gone');
    // What was asked for is under way still; it waits for the next start.
    await server.stop();
    await doctorSilent(folder);
  },
};

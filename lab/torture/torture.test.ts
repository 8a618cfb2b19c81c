import { afterAll, beforeAll, describe, expect, jest, test } from '@jest/globals';
import { mkdirSync, readdirSync, writeFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { Ledger, withSong } from './ledger.mjs';
import { Random } from './random.mjs';
import { mutate } from './scenarios/mutated-media.mjs';
import { SCENARIOS } from './scenarios/all.mjs';
import { wrongWith } from './sentences.mjs';
import { Tally } from './tally.mjs';
import { doctorSilent } from './whole.mjs';

jest.setTimeout(60_000);

test('each scenario is a file of its own, and a line in the list', () => {
  const files = readdirSync(join(import.meta.dirname, 'scenarios')).filter((name) => name !== 'all.mjs');
  expect(SCENARIOS).toHaveLength(files.length);
  expect(new Set(SCENARIOS.map(({ name }) => name)).size).toBe(files.length);
});

describe('what a refusal may say', () => {
  test.each([
    'There is no such project. It may have been deleted; look on the projects page.',
    '"kites.mp4" is damaged or was cut off before its end. Copy it again from the camera or the card.',
    'This is not a Bluster montage: effects 4 beats is below 0, the least that there may be.',
  ])('%s', (sentence) => expect(wrongWith(sentence)).toBeNull());
  test.each([
    '',
    undefined,
    'Validation failed (uuid is expected)',
    'no capital.',
    'No end',
    'ENOSPC: no space left on device, write.',
    'The file /home/anna/kites.mp4 is not there.',
    'The file could not be worked on: [h264 @ 0x562260026d40] co located POCs unavailable.',
    `${'Long. '.repeat(200)}`,
  ])('and not: %s', (sentence) => expect(wrongWith(sentence)).not.toBeNull());
  test('is held by the tally', () => {
    const tally = new Tally();
    tally.refusal('This was cancelled.', 'a test');
    expect(() => tally.refusal('SQLITE_BUSY: database is locked.', 'a test')).toThrow(/says "SQLITE_BUSY"/);
    expect(String(tally)).toBe('2 refusals');
  });
});

test('the same seed gives the same numbers and the same damage, another seed others', () => {
  const bytes = Buffer.from('a kite is a tethered heavier-than-air craft '.repeat(20));
  const damage = (seed: number): string[] => {
    const random = new Random(seed);
    return Array.from({ length: 12 }, () => mutate(bytes, random).toString('latin1'));
  };
  expect(damage(7)).toEqual(damage(7));
  expect(damage(8)).not.toEqual(damage(7));
  expect(damage(7).filter((text) => text !== bytes.toString('latin1')).length).toBeGreaterThan(6);
});

describe('the ledger', () => {
  /** A server that acknowledges saves, and forgets some if it is told to. */
  let stored: { revision: number; document: object };
  let forgets = false;
  let server: Server;
  let base: string;
  beforeAll(async () => {
    server = createServer((request, response) => {
      let text = '';
      request.on('data', (chunk: Buffer) => (text += chunk.toString()));
      request.on('end', () => {
        let answer: object = { id: 'one' };
        if (request.method === 'GET') answer = stored;
        if (request.method === 'PUT') {
          const { revision, document } = JSON.parse(text) as { revision: number; document: object };
          if (!forgets) stored = { revision: revision + 1, document };
          answer = { revision: revision + 1 };
        }
        response.setHeader('content-type', 'application/json').end(JSON.stringify(answer));
      });
    });
    await new Promise<void>((listening) => server.listen(0, '127.0.0.1', listening));
    base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  });
  afterAll(() => void server.close());

  test('sees whether what was acknowledged is there', async () => {
    const ledger = new Ledger();
    const id = await ledger.newProject(base, 'Kites');
    expect(await ledger.edit(base, id, new Random(1))).toBe(true);
    await ledger.check(base);
    forgets = true;
    await ledger.edit(base, id, new Random(2));
    await expect(ledger.check(base)).rejects.toThrow(/is not as it was acknowledged/);
    forgets = false;
  });

  test('takes what was on its way, and nothing else', async () => {
    const ledger = new Ledger();
    const id = await ledger.newProject(base, 'Kites');
    expect(await ledger.save('http://127.0.0.1:1', id, { ...withSong(), pictureFades: { in: 2, out: 0 } })).toBe(false);
    await ledger.check(base);
    expect(await ledger.save('http://127.0.0.1:1', id, { ...withSong(), pictureFades: { in: 2.2, out: 0 } })).toBe(false);
    stored = { revision: stored.revision + 1, document: { ...stored.document, pictureFades: { in: 2.2, out: 0 } } };
    await ledger.check(base);
    stored = { revision: stored.revision + 1, document: { ...stored.document, pictureFades: { in: 2.4, out: 0 } } };
    await expect(ledger.check(base)).rejects.toThrow(/is not as it was acknowledged/);
  });
});

test('a doctor who finds something is no silent one', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'bluster-torture-'));
  await doctorSilent(folder);
  mkdirSync(join(folder, 'exports'), { recursive: true });
  writeFileSync(join(folder, 'exports', 'film.mp4.7b0c9a3e-1c1f-4f43-9b1c-3a3f7d3e2a11.part'), 'half');
  await expect(doctorSilent(folder)).rejects.toThrow(/was never finished/);
});

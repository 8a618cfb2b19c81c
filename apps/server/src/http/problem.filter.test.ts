import { expect, test } from '@jest/globals';
import { BadRequestException, PayloadTooLargeException } from '@nestjs/common';
import { MulterError } from 'multer';
import { Refusal } from '@bluster/core';
import { scratchFolder } from '@bluster/media/testing/made-media';
import { RunningServer } from '../testing/running-server.ts';
import { describeProblem } from './problem.filter.ts';

test.each([
  ['a file that is too large', new MulterError('LIMIT_FILE_SIZE'), 413, /larger than 20 GB/],
  ['the same, as the framework wraps it', new PayloadTooLargeException('File too large'), 413, /larger than 20 GB/],
  ['too many files, as the framework wraps it', new BadRequestException('Too many files'), 400, /Send one file/],
  ['another refusal stays what it is', new BadRequestException('There is no song yet.'), 400, /There is no song yet\.$/],
  ['a full disk', Object.assign(new Error('write'), { code: 'ENOSPC' }), 507, /disk is full/],
  ['what is for people', new Refusal('The kite is too long.'), 422, /^The kite is too long\.$/],
  ['anything else', new TypeError('x is not a function'), 500, /details are in its log/],
])('%s', (_, error, status, sentence) => {
  const [said, body] = describeProblem(error);
  expect(said).toBe(status);
  expect((body as { message: string }).message).toMatch(sentence);
});

test('JSON that is nested thousands deep is refused, and the server goes on', async () => {
  const server = await RunningServer.start(scratchFolder());
  const id = await server.newProject();
  const deep = `${'['.repeat(50_000)}${']'.repeat(50_000)}`;
  const response = await fetch(`${server.url}/api/projects/${id}/montage`, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json' },
    body: `{"revision":1,"document":${deep}}`,
  });
  expect(response.status).toBeGreaterThanOrEqual(400);
  expect(response.status).toBeLessThan(500);
  expect(((await response.json()) as { message: string }).message).toMatch(/\.$/);
  await server.http.get(`/api/projects/${id}/montage`).expect(200);
  await server.stop();
});

test('of a request that is nonsense throughout the first few things are said, each once', async () => {
  const server = await RunningServer.start(scratchFolder());
  const id = await server.newProject();
  const nonsense = {
    preset: 7,
    document: {},
    revision: 1,
    size: [{ width: 'x', height: null }],
    rate: 3,
    stretch: 'all',
    loudness: 'loud',
  };
  const said = async (asked: object): Promise<string> =>
    ((await server.http.post(`/api/projects/${id}/exports`).send(asked).expect(400)).body as { message: string }).message;
  const message = await said(nonsense);
  expect(message).toMatch(/^"document" is not known here; .*; and \d+ more\.$/);
  expect(message).not.toMatch(/nested property/);
  const parts = message.split('; ');
  expect(parts).toHaveLength(5);
  expect(new Set(parts).size).toBe(5);
  expect(await said({ size: { width: 17, height: 64 } })).toBe('A film is an even number of pixels wide.');
  expect(await said({ rate: 3 })).toBe('"rate" has to have values in it.');
  await server.stop();
});

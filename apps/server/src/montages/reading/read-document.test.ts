import 'reflect-metadata';
import { describe, expect, test } from '@jest/globals';
import { MontageFormatError, carryOut, emptyMontage } from '@bluster/core';
import { BadRequest, readDocument } from './read-document.ts';

const document = emptyMontage();
const request = (body: unknown): string => JSON.stringify(body);

describe('a request that brings a document', () => {
  test('is read: its revision, its reason, its document as it is kept', () => {
    const saved = readDocument({ kind: 'save', text: request({ revision: 3, document }) });
    expect([saved.revision, JSON.parse(saved.facts.text)]).toEqual([3, JSON.parse(JSON.stringify(document))]);
    const kept = readDocument({ kind: 'keep', text: request({ revision: 3, document, reason: 'By hand' }) });
    expect(kept.reason).toBe('By hand');
  });
  test.each([
    ['{', 'The request is not valid JSON.'],
    ['[]', 'The request is not a JSON object.'],
    ['null', 'The request is not a JSON object.'],
    [request({ revision: 1 }), '"document" has to be there, with values in it.'],
    [request({ revision: 1, document: [] }), '"document" has to be there, with values in it.'],
    [request({ revision: '1', document }), '"revision" must not be less than 1; "revision" has to be a whole number.'],
    [request({ revision: 1, document, reason: 'x' }), '"reason" is not known here.'],
    [request({ revision: 1, document, name: { constructor: 1 } }), '"name" is not known here.'],
    ['{"revision":1,"constructor":"0","document":{}}', '"constructor" is not known here.'],
    ['{"revision":1,"__proto__":{"revision":2},"document":{}}', '"__proto__" is not known here.'],
  ])('%s is refused', (text, sentence) => {
    expect(() => readDocument({ kind: 'save', text })).toThrow(new BadRequest(sentence));
  });
  test('a document that is none is refused as one', () => {
    const text = request({ revision: 1, document: { format: 'kite' } });
    expect(() => readDocument({ kind: 'save', text })).toThrow(MontageFormatError);
  });
  test('nested thousands deep it is refused, and not as a fault', () => {
    const text = `{"revision":1,"document":{"a":${'['.repeat(100_000)}${']'.repeat(100_000)}}}`;
    expect(() => readDocument({ kind: 'save', text })).toThrow(/nested too deeply|not a Bluster montage/);
  });
});

test('what the server knows of a montage: its files, and those that a film reads', () => {
  const song = carryOut(document, { do: 'setSong', assetId: 'song', name: 'song', length: 10 });
  const { facts } = readDocument({ kind: 'copy', text: JSON.stringify(song), ids: new Map([['song', 'copy']]) });
  expect(facts).toMatchObject({ hasSong: true, hasShots: false, assets: ['copy'], shown: ['copy'], cover: null, length: 10, filled: 0 });
});

test('a stored document that breaks off says so', () => {
  expect(() => readDocument({ kind: 'stored', text: JSON.stringify(document).slice(0, 60) })).toThrow(/is damaged: it breaks off/);
});

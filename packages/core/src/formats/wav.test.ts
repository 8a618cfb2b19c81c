import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { readWavHeader, wavHeader } from './wav.ts';

test('the header of a second of sound, byte by byte', () => {
  expect(Buffer.from(wavHeader(44100)).toString('hex')).toBe(
    '52494646' +
      '34b10200' +
      '57415645' +
      '666d7420' +
      '10000000' +
      '01000200' +
      '44ac0000' +
      '10b10200' +
      '04001000' +
      '64617461' +
      '10b10200',
  );
});
test('what was written is read', () => {
  fc.assert(
    fc.property(fc.nat(2 ** 30 - 10), fc.constantFrom(8000, 22050, 44100, 96000), (length, rate) => {
      expect(readWavHeader(wavHeader(length, rate))).toEqual({ length, rate });
    }),
  );
});
test('a header that is cut off, or of another kind of sound, is none', () => {
  const mono = wavHeader(100);
  mono[22] = 1;
  expect(readWavHeader(mono)).toBeNull();
  expect(readWavHeader(wavHeader(100).subarray(0, 43))).toBeNull();
});

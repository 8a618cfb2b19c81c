import 'reflect-metadata';
import { describe, expect, test } from '@jest/globals';
import { checkFilmWords, type Wanted } from './film-words.ts';

describe('what films are asked for, before the montage is known', () => {
  test.each<[Wanted]>([
    [{}],
    [{ shape: ['40:1'] }], // small enough for some montages
    [{ side: '7000' }], // likewise
    [{ shape: ['9:16', '1:1'], side: '720', from: '2', to: '4', loudness: '-14', preset: 'vp9', quality: 'best' }],
    [{ from: '90' }],
  ])('%j may be right', (wanted) => {
    expect(() => checkFilmWords(wanted)).not.toThrow();
  });
  test.each<[Wanted, RegExp]>([
    [{ shape: ['wide'] }, /"wide" is no shape/],
    [{ shape: ['16:9'], side: '9000' }, /width|height|8192/],
    [{ preset: 'flipbook' }, /one of these ways/],
    [{ to: 'the end' }, /--to takes a number, not "the end"/],
    [{ side: 'long' }, /--side takes a number/],
  ])('%j cannot', (wanted, says) => {
    expect(() => checkFilmWords(wanted)).toThrow(says);
  });
});

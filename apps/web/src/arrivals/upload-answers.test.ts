import { describe, expect, test } from '@jest/globals';
import { mayHelp, sentenceOf, type UploadError } from './upload-answers.ts';

const answered = (status: number, body: string): UploadError =>
  ({ name: 'Error', message: '', originalResponse: { getStatus: () => status, getBody: () => body } }) as unknown as UploadError;

describe('an upload that failed', () => {
  test.each([
    ['the server’s own sentence', answered(422, '{"message":"\\"a.mp4\\" is empty."}'), '"a.mp4" is empty.', false],
    ['a full disk, which may have room later', answered(507, '{"message":"The disk is full."}'), 'The disk is full.', true],
    ['an answer without a sentence', answered(502, '<html>'), '"a.mp4" could not be sent (502). Try again.', true],
    ['no answer', new Error('xhr'), '"a.mp4" was cut off: the server does not answer. What was sent is kept; try again.', true],
  ])('says %s', (_, error, problem, again) => expect(sentenceOf(error, 'a.mp4')).toEqual({ problem, again }));

  test.each([
    [0, true],
    [400, false],
    [404, false],
    [409, true],
    [422, false],
    [423, true],
    [500, true],
    [507, false],
  ])('with status %d is tried again by itself: %p', (status, again) =>
    expect(mayHelp(status === 0 ? new Error('cut') : answered(status, ''))).toBe(again),
  );
});

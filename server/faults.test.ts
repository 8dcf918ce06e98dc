import { describe, expect, test } from 'vitest';
import { faultOf, isDatabaseAway } from './faults.ts';
import { PictureError } from './pictures/decode.ts';

const withCode = (code: string, message = 'inner /data/store/ab/abcdef'): Error =>
  Object.assign(new Error(message), { code });

describe('faultOf', () => {
  test.each([
    ['ENOSPC', 507, /disk is full/],
    ['EROFS', 507, /only be read/],
    ['EACCES', 507, /permission/],
    ['ER_RECORD_FILE_FULL', 507, /disk is full/],
    ['PROTOCOL_CONNECTION_LOST', 503, /database/],
    ['ENOENT', 409, /not there any more/],
    ['ERR_WORKER_OUT_OF_MEMORY', 500, /memory/],
  ])('%s has a true reason, also when it is the cause of another error, and no inner path', (code, status, reason) => {
    for (const error of [withCode(code), new Error('Failed query: insert', { cause: withCode(code) })]) {
      const fault = faultOf(error);
      expect(fault?.status).toBe(status);
      expect(fault?.problem.reason).toMatch(reason);
      expect(JSON.stringify(fault)).not.toContain('/data/');
    }
  });

  test('codecs that give no code are known by what they say', () => {
    expect(faultOf(new Error('VipsJpeg: out of memory'))?.problem.reason).toMatch(/memory/);
    expect(faultOf(new Error('write error: No space left on device'))?.problem.reason).toMatch(/full/);
  });

  test('a picture keeps its own words; what is unknown stays unknown', () => {
    expect(faultOf(new PictureError('it is grey', 'Use colour.'))?.problem).toEqual({
      reason: 'it is grey',
      remedy: 'Use colour.',
    });
    expect(faultOf(new TypeError('x is not a function'))).toBeUndefined();
    expect(isDatabaseAway(withCode('ER_DUP_ENTRY'))).toBe(false);
  });
});

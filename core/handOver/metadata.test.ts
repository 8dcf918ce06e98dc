import { expect, test } from 'vitest';
import { iptcOf, noMetadata, writtenFacts, xmpOf } from './metadata.ts';

const metadata = { ...noMetadata, photographer: 'A & B <Studio>', persons: true, taken: true };

test('a name is written only where all on the picture said yes', () => {
  const person = (consents: string[]) => writtenFacts(metadata, 'Pier', { name: 'Ida', consents }, null).person;
  expect(person(['yes', 'yes'])).toBe('Ida');
  expect(person(['yes', 'prints'])).toBe('');
  expect(person(['unasked'])).toBe('');
  expect(person([])).toBe('');
});

test('XMP escapes what would end it, and holds nothing that was not given', () => {
  const facts = writtenFacts({ ...metadata, rights: 'a\u0000b"' }, 'Pier', { name: '', consents: [] }, null);
  const xmp = xmpOf(facts);
  expect(xmp).toContain('A &amp; B &lt;Studio&gt;');
  expect(xmp).toContain('ab&quot;');
  expect(xmp).not.toContain('PersonInImage');
  expect(xmp).not.toContain('CreateDate');
});

test('IPTC records keep within their octets and never cut a letter', () => {
  const facts = writtenFacts({ ...metadata, photographer: 'ü'.repeat(40) }, 'T', { name: '', consents: [] }, null);
  const bytes = iptcOf(facts);
  const at = bytes.findIndex((b, i) => b === 0x1c && bytes[i + 1] === 2 && bytes[i + 2] === 80);
  expect((bytes[at + 3] << 8) | bytes[at + 4]).toBe(32);
  expect(new TextDecoder('utf-8', { fatal: true }).decode(bytes.subarray(at + 5, at + 37))).toBe('ü'.repeat(16));
});

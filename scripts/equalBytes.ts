import { expect } from 'vitest';

/** Pixels are compared as they lie in memory: element by element takes seconds for one picture. */
expect.addEqualityTesters([
  (a: unknown, b: unknown): boolean | undefined => {
    if (!ArrayBuffer.isView(a) || !ArrayBuffer.isView(b) || a.constructor !== b.constructor) return undefined;
    const bytes = ({ buffer, byteOffset, byteLength }: ArrayBufferView): Buffer =>
      Buffer.from(buffer, byteOffset, byteLength);
    return bytes(a).equals(bytes(b)) || undefined;
  },
]);

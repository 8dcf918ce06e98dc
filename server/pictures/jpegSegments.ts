/** Application segments of JPEG files (ITU T.81, B.2.4.6), which the codec library does not write as needed. */

interface Segment {
  marker: number;
  body: Buffer;
}
const MOST_BODY = 65_533;

/** A JPEG with other application segments: those that `keep` wants, then `more`. */
function withSegments(jpeg: Buffer, keep: (segment: Segment) => boolean, more: readonly Segment[]): Buffer {
  const parts: Buffer[] = [jpeg.subarray(0, 2)];
  const put = ({ marker, body }: Segment): void => {
    const head = Buffer.from([0xff, marker, 0, 0]);
    head.writeUInt16BE(body.length + 2, 2);
    parts.push(head, body);
  };
  let at = 2;
  for (; jpeg[at] === 0xff && jpeg[at + 1] >= 0xe0 && jpeg[at + 1] <= 0xef; at += 2 + jpeg.readUInt16BE(at + 2)) {
    const segment = { marker: jpeg[at + 1], body: jpeg.subarray(at + 4, at + 2 + jpeg.readUInt16BE(at + 2)) };
    if (keep(segment)) put(segment);
  }
  more.forEach(put);
  return Buffer.concat([...parts, jpeg.subarray(at)]);
}

/** Puts IPTC-IIM records into a JPEG, as image resource 0x0404 in a segment of its own. */
export function withIptc(jpeg: Buffer, records: Uint8Array): Buffer {
  const resource = Buffer.alloc(12);
  resource.write('8BIM', 'latin1');
  resource.writeUInt16BE(0x0404, 4);
  resource.writeUInt32BE(records.length, 8);
  const body = Buffer.concat([
    Buffer.from('Photoshop 3.0\0', 'latin1'),
    resource,
    records,
    Buffer.alloc(records.length % 2),
  ]);
  return withSegments(jpeg, () => true, [{ marker: 0xed, body }]);
}

const PROFILE_HEAD = 'ICC_PROFILE\0';

/** Puts a profile in the place of that of a JPEG (ICC.1, annex B.4: parts with their numbers). */
export function withProfile(jpeg: Buffer, profile: Buffer): Buffer {
  const room = MOST_BODY - PROFILE_HEAD.length - 2;
  const count = Math.ceil(profile.length / room);
  const parts = Array.from({ length: count }, (_, n) => ({
    marker: 0xe2,
    body: Buffer.concat([
      Buffer.from(PROFILE_HEAD, 'latin1'),
      Buffer.from([n + 1, count]),
      profile.subarray(n * room, (n + 1) * room),
    ]),
  }));
  const isProfile = ({ marker, body }: Segment): boolean =>
    marker === 0xe2 && body.toString('latin1', 0, PROFILE_HEAD.length) === PROFILE_HEAD;
  return withSegments(jpeg, (segment) => !isProfile(segment), parts);
}

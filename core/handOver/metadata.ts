/** What is written into the files of a hand-over beside the picture; all of it, and nothing else. */
export interface Metadata {
  /** A pattern of the tokens of file names, without a running number. */
  title: string;
  photographer: string;
  rights: string;
  place: string;
  instructions: string;
  /** Whether the name of who is on it is written, where consent allows. */
  persons: boolean;
  /** Whether it is written when the photograph was taken. */
  taken: boolean;
}

export const metadataFields = {
  title: { label: 'Title', most: 120 },
  photographer: { label: 'Photographer', most: 120 },
  rights: { label: 'Rights', most: 200 },
  place: { label: 'Place', most: 120 },
  instructions: { label: 'Instructions', most: 300 },
} as const;

export const noMetadata: Metadata = {
  title: '{shoot}',
  photographer: '',
  rights: '',
  place: '',
  instructions: '',
  persons: false,
  taken: false,
};

/** What is written into one file; what is empty is left out. */
export interface WrittenFacts {
  title: string;
  photographer: string;
  rights: string;
  place: string;
  instructions: string;
  person: string;
  /** Local time without zone, ISO 8601. */
  taken: string;
}

/** The consents of those on a picture; a name is only written where all of them said yes. */
export function writtenFacts(
  metadata: Metadata,
  title: string,
  subject: { name: string; consents: readonly string[] },
  takenAt: string | null,
): WrittenFacts {
  const { photographer, rights, place, instructions, persons, taken } = metadata;
  const mayName = persons && subject.consents.length > 0 && subject.consents.every((consent) => consent === 'yes');
  return {
    title,
    photographer,
    rights,
    place,
    instructions,
    person: mayName ? subject.name : '',
    taken: taken ? (takenAt ?? '') : '',
  };
}

const namespaces = [
  'xmlns:dc="http://purl.org/dc/elements/1.1/"',
  'xmlns:xmp="http://ns.adobe.com/xap/1.0/"',
  'xmlns:photoshop="http://ns.adobe.com/photoshop/1.0/"',
  'xmlns:Iptc4xmpCore="http://iptc.org/std/Iptc4xmpCore/1.0/xmlns/"',
  'xmlns:Iptc4xmpExt="http://iptc.org/std/Iptc4xmpExt/2008-02-29/"',
].join(' ');

/** The facts as an XMP packet (ISO 16684-1, with the properties of the IPTC photo metadata standard). */
export function xmpOf(facts: WrittenFacts): string {
  const alt = (name: string, text: string) =>
    text && `<${name}><rdf:Alt><rdf:li xml:lang="x-default">${escaped(text)}</rdf:li></rdf:Alt></${name}>`;
  const list = (name: string, kind: 'Seq' | 'Bag', text: string) =>
    text && `<${name}><rdf:${kind}><rdf:li>${escaped(text)}</rdf:li></rdf:${kind}></${name}>`;
  const plain = (name: string, text: string) => text && `<${name}>${escaped(text)}</${name}>`;
  const properties = [
    alt('dc:title', facts.title),
    list('dc:creator', 'Seq', facts.photographer),
    alt('dc:rights', facts.rights),
    plain('Iptc4xmpCore:Location', facts.place),
    plain('photoshop:Instructions', facts.instructions),
    list('Iptc4xmpExt:PersonInImage', 'Bag', facts.person),
    plain('xmp:CreateDate', facts.taken),
    plain('photoshop:DateCreated', facts.taken),
  ].join('');
  return `<?xpacket begin="\ufeff" id="W5M0MpCehiHzreSzNTczkc9d"?><x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"><rdf:Description rdf:about="" ${namespaces}>${properties}</rdf:Description></rdf:RDF></x:xmpmeta><?xpacket end="w"?>`;
}

/** For XML 1.0: what it cannot hold is left out. */
function escaped(text: string): string {
  return text
    .replace(/[^\t\n\r\u0020-\ud7ff\ue000-\ufffd\u{10000}-\u{10ffff}]/gu, '')
    .replace(/&/g, '&amp;')
    .replace(/</g, '&lt;')
    .replace(/>/g, '&gt;')
    .replace(/"/g, '&quot;');
}

/** Data sets of record 2 (IPTC-IIM 4.2) and the octets that each may have. */
const iptcSets = {
  title: [5, 64],
  photographer: [80, 32],
  rights: [116, 128],
  place: [92, 32],
  instructions: [40, 256],
} as const;

/** The facts as IPTC-IIM records in UTF-8, each no longer than the standard lets it be. */
export function iptcOf(facts: WrittenFacts): Uint8Array {
  const bytes: number[] = [];
  const put = (record: number, set: number, value: ArrayLike<number>): void => {
    bytes.push(0x1c, record, set, value.length >> 8, value.length & 255, ...Array.from(value));
  };
  // Coded character set: UTF-8; then the record's version.
  put(1, 90, [0x1b, 0x25, 0x47]);
  put(2, 0, [0, 4]);
  for (const [field, [set, most]] of Object.entries(iptcSets) as [keyof typeof iptcSets, readonly [number, number]][])
    if (facts[field]) put(2, set, utf8(facts[field], most));
  const [day, time] = facts.taken.split('T');
  if (day) put(2, 55, utf8(day.replaceAll('-', ''), 8));
  if (time) put(2, 60, utf8(`${time.replaceAll(':', '').slice(0, 6)}`, 11));
  return Uint8Array.from(bytes);
}

/** UTF-8 of a text, cut between letters so that it has at most so many bytes. */
function utf8(text: string, most: number): number[] {
  const out: number[] = [];
  for (const letter of text) {
    const code = letter.codePointAt(0) ?? 0;
    const bytes =
      code < 0x80
        ? [code]
        : code < 0x800
          ? [0xc0 | (code >> 6), 0x80 | (code & 63)]
          : code < 0x10000
            ? [0xe0 | (code >> 12), 0x80 | ((code >> 6) & 63), 0x80 | (code & 63)]
            : [0xf0 | (code >> 18), 0x80 | ((code >> 12) & 63), 0x80 | ((code >> 6) & 63), 0x80 | (code & 63)];
    if (out.length + bytes.length > most) break;
    out.push(...bytes);
  }
  return out;
}

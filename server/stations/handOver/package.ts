import type { Entry } from '../../zip/zipOf.ts';
import type { Store } from '../../store/store.ts';
import { stemOf } from '../../../core/handOver/index.ts';
import { checksums, manifestCsv, manifestJson, type HandedOver } from './manifest.ts';
import { contactPdf, slipsPdf } from './papers.ts';
import { proofHtml } from './proofPages.ts';

/** All that a hand-over consists of: its pictures, its papers, the lists of them. */
export async function entriesOf(made: HandedOver, store: Store): Promise<Entry[]> {
  const { settings, files, small } = made;
  const { contact, slips, proof } = settings.papers;
  const there = files.filter(({ missing }) => !missing);
  const gone = files.filter(({ missing }) => missing);
  const entries: Entry[] = there.map((stored) => ({ name: stored.file, stored }));
  const add = (name: string, content: string | Buffer): void =>
    void entries.push({ name, content: Buffer.from(content) });
  if (proof) {
    for (const stored of small) if (!stored.missing) entries.push({ name: stored.file, stored });
    add('proof/index.html', proofHtml(made));
  }
  if (contact) add('contact sheet.pdf', await contactPdf(made, store));
  if (slips) add('order slips.pdf', await slipsPdf(made, store));
  add('manifest.csv', manifestCsv(files));
  add('manifest.json', manifestJson(made));
  add('checksums.txt', checksums(files));
  if (gone.length)
    add(
      'MISSING.txt',
      `These files of the hand-over are gone from the data folder:\r\n\r\n${gone.map(({ file, frame }) => `${file}  (frame ${frame})`).join('\r\n')}\r\n\r\nHand over once more; the frames named here are written anew.\r\n`,
    );
  return apart(entries);
}

/** Lists and papers give way to a picture that a pattern named as they are. */
function apart(entries: Entry[]): Entry[] {
  const taken = new Set(entries.flatMap((entry) => ('stored' in entry ? [entry.name.toLowerCase()] : [])));
  return entries.map((entry) => {
    if ('stored' in entry) return entry;
    let { name } = entry;
    for (let n = 2; taken.has(name.toLowerCase()); n++)
      name = `${stemOf(entry.name)}-${n}${entry.name.slice(stemOf(entry.name).length)}`;
    return { ...entry, name };
  });
}

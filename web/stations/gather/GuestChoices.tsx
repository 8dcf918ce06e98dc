import { Button } from '@mui/material';
import { useState } from 'react';
import { useDropzone } from 'react-dropzone';
import type { Frame, Subject } from '../../../contract/index.ts';
import { choicesFrom, orderWords, type GuestChoice } from '../../../core/gather/choices.ts';
import { subjectFields } from '../../../core/gather/subject.ts';
import { counted } from '../../shared/format.ts';
import { FileInput } from '../../shared/FileInput.tsx';
import { Problem } from '../../shared/Problem.tsx';
import { changeSubject, sortFrames } from '../../state/changes.ts';
import { readText, tableOf } from './rosterFile.ts';

interface Came {
  lead: string;
  words: string;
}

/** Brings a list of choices in from the proof pages: chosen frames are kept, what was ordered goes onto the roster. */
export function GuestChoices({
  shootId,
  frames,
  subjects,
}: {
  shootId: number;
  frames: readonly Frame[];
  subjects: readonly Subject[];
}) {
  const [came, setCame] = useState<Came>();
  const take = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    const { rows, lines } = tableOf(readText(new Uint8Array(await file.arrayBuffer())));
    const read = choicesFrom(rows, lines);
    if ('refused' in read)
      return setCame({
        lead: `“${file.name}” cannot be taken:`,
        words: `${read.refused}. Take the list that the proof pages save.`,
      });
    const byName = new Map(frames.map((frame) => [frame.name, frame]));
    const known = read.choices.flatMap((choice) => {
      const frame = byName.get(choice.frame);
      return frame ? [{ choice, frame }] : [];
    });
    const keep = known.filter(({ choice }) => choice.chosen).map(({ frame }) => frame.id);
    if (keep.length)
      await sortFrames(shootId, [{ frameIds: keep, pick: 'keep' }], `choices, ${counted(keep.length, 'frame')}`);
    await order(known, subjects);
    const unknown = read.choices.filter(({ frame }) => !byName.has(frame)).map(({ frame }) => frame);
    setCame({
      lead: `${counted(keep.length, 'frame')} chosen and kept.`,
      words: [
        unknown.length && `Not in this shoot: ${unknown.slice(0, 5).join(', ')}${unknown.length > 5 ? ' …' : ''}.`,
        ...read.odd.slice(0, 3).map(({ line, reason }) => `Line ${line}: ${reason}.`),
      ]
        .filter(Boolean)
        .join(' '),
    });
  };
  const { getInputProps, open } = useDropzone({
    multiple: false,
    noDrag: true,
    onDrop: ([file]) => void take(file),
  });
  return (
    <>
      <Button onClick={open}>Choices from proof pages</Button>
      <FileInput label="List of choices" props={getInputProps} />
      {came && (
        <Problem
          role="note"
          lead={came.lead}
          action={
            <Button variant="text" onClick={() => setCame(undefined)}>
              Put away
            </Button>
          }
        >
          {came.words}
        </Problem>
      )}
    </>
  );
}

/** Whoever chose frames of somebody on the roster ordered them. */
async function order(
  known: readonly { choice: GuestChoice; frame: Frame }[],
  subjects: readonly Subject[],
): Promise<void> {
  for (const subject of subjects) {
    const own = known.filter(({ frame }) => frame.subject === subject.name).map(({ choice }) => choice);
    const products = orderWords(own).slice(0, subjectFields.products.most);
    if (products && products !== subject.products)
      await changeSubject(subject, { products }, `what ${subject.name} ordered`);
  }
}

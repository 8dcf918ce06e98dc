import { describe, expect, test } from 'vitest';
import { seededRandom } from '../random.ts';
import { columnsOf, rosterRows, separatorOf, subjectsFrom } from './roster.ts';
import { noSubject, subjectFields } from './subject.ts';

describe('what separates columns', () => {
  test.each([
    ['number,name\n1,Ada\n2,"Bo, the second"\n', ','],
    ['number;name;note\n1;Ada;a, b, c\n2;Bo;d, e\n', ';'],
    ['1\tAda\n2\tBo\n', '\t'],
    ['name|group\nAda|A\nBo|B', '|'],
    ['Ada\nBo\n', ','],
    ['', ','],
  ])('%j', (text, separator) => expect(separatorOf(text)).toBe(separator));
});

describe('which column is what', () => {
  test('by the words of the head, in any writing', () => {
    expect(columnsOf([['No.', 'FIRST_NAME', 'Last name', 'Class', 'Consent', 'Shoe size']])).toEqual({
      uses: ['number', 'firstName', 'lastName', 'group', 'consent', 'none'],
      head: true,
    });
  });
  test('without a head by what stands in them', () => {
    expect(
      columnsOf([
        ['Ada Berg', '12'],
        ['Bo Lund', '13'],
      ]),
    ).toEqual({ uses: ['name', 'number'], head: false });
  });
});

describe('subjects', () => {
  const read = (rows: string[][], taken: string[] = []) => {
    const { uses, head } = columnsOf(rows);
    return subjectsFrom(
      head ? rows.slice(1) : rows,
      uses,
      head ? rows[0] : [],
      rows.map((_, n) => n + (head ? 2 : 1)),
      taken,
    );
  };
  test('names in two parts are joined; what has no column goes into the note under its head', () => {
    const { subjects, problems } = read([
      ['First name', 'Last name', 'Shoes', 'Note'],
      ['Ada', ' Berg ', '38', 'left handed'],
    ]);
    expect(subjects).toEqual([{ ...noSubject, name: 'Ada Berg', note: 'left handed; Shoes: 38' }]);
    expect(problems).toEqual([]);
  });
  test('consent in common words; what is none is named with its line and kept', () => {
    const { subjects, problems } = read([
      ['Name', 'Consent'],
      ['Ada', 'Y'],
      ['Bo', 'prints only'],
      ['Cy', 'No'],
      ['Di', 'maybe'],
      ['Ed', ''],
    ]);
    expect(subjects.map(({ consent }) => consent)).toEqual(['yes', 'prints', 'no', 'unasked', 'unasked']);
    expect(subjects[3].note).toBe('consent: maybe');
    expect(problems).toEqual([expect.objectContaining({ line: 5 })]);
  });
  test('equal names are told apart by their numbers, and from those that are there already', () => {
    const { subjects, problems } = read(
      [
        ['No', 'Name'],
        ['1', 'Ada'],
        ['2', 'ada'],
        ['3', 'Bo'],
      ],
      ['Bo'],
    );
    expect(subjects.map(({ name }) => name)).toEqual(['Ada', 'ada (2)', 'Bo (3)']);
    expect(problems.map(({ line }) => line)).toEqual([3, 4]);
  });
  test('a line without anybody is named; an empty one is nothing', () => {
    const { subjects, problems } = read([
      ['Name', 'Group'],
      ['', 'A'],
      ['', ''],
      ['Ada', 'B'],
    ]);
    expect(subjects.map(({ name }) => name)).toEqual(['Ada']);
    expect(problems).toEqual([{ line: 2, reason: 'neither a name nor a number: A' }]);
  });
  test('a number alone is somebody', () => {
    expect(read([['Number'], ['7']]).subjects).toEqual([]);
    expect(subjectsFrom([['7']], ['number'], [], [1]).subjects[0]).toMatchObject({ number: '7', name: 'Number 7' });
  });
  test('what comes out is read in again as it was', () => {
    const subjects = [
      { ...noSubject, number: '1', name: 'Ada', consent: 'prints' as const, note: 'a; "b", c' },
      { ...noSubject, number: '02', name: 'Bo', group: 'Table 4', consentBy: 'C. Lund', consent: 'no' as const },
    ];
    expect(read(rosterRows(subjects))).toEqual({ subjects, problems: [] });
  });
  test('whatever stands in a list, fields keep their bounds, names are distinct and nothing of a line is lost', () => {
    const random = seededRandom(5);
    const letters = 'aZ0 ,;\t"\'\n\u0000é漢😀-=+@';
    for (let round = 0; round < 200; round++) {
      const columns = 1 + Math.floor(random() * 11);
      const rows = Array.from({ length: 1 + Math.floor(random() * 12) }, () =>
        Array.from({ length: Math.floor(random() * columns) + 1 }, () =>
          Array.from(
            { length: Math.floor(random() * (random() < 0.1 ? 300 : 12)) },
            () => letters[Math.floor(random() * letters.length)],
          ).join(''),
        ),
      );
      separatorOf(rows.map((row) => row.join(',')).join('\n'));
      const { uses, head } = columnsOf(rows);
      const { subjects, problems } = subjectsFrom(
        head ? rows.slice(1) : rows,
        uses,
        head ? rows[0] : [],
        rows.map((_, n) => n + 1),
      );
      const names = subjects.map(({ name }) => name.toLowerCase());
      expect(new Set(names).size).toBe(names.length);
      for (const subject of subjects)
        for (const [field, { most }] of Object.entries(subjectFields))
          expect(subject[field as 'name'].length).toBeLessThanOrEqual(most);
      const lines = (head ? rows.slice(1) : rows).filter((row) =>
        row.some((cell) => cell.replace(/[\u0000-\u001f\s]/g, '') !== ''),
      ).length;
      const left = problems.filter(({ reason }) => reason.startsWith('neither')).length;
      expect(subjects.length + left).toBe(lines);
    }
  });
});

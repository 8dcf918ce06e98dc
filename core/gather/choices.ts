/** What a guest or client chose of the proof pages, as it comes back in a list. */
export interface GuestChoice {
  frame: string;
  chosen: boolean;
  copies: number;
  note: string;
}

/** @returns the choices, or why the rows are no such list. Rows without a frame or an answer are told by their line. */
export function choicesFrom(
  rows: readonly (readonly string[])[],
  lines: readonly number[],
): { choices: GuestChoice[]; odd: { line: number; reason: string }[] } | { refused: string } {
  const head = rows[0]?.map((cell) => cell.trim().toLowerCase()) ?? [];
  const [frame, choice, copies, note] = ['frame', 'choice', 'copies', 'note'].map((name) => head.indexOf(name));
  if (frame < 0 || choice < 0)
    return { refused: 'its first line names no columns “frame” and “choice”, as the lists of the proof pages do' };
  const choices: GuestChoice[] = [];
  const odd: { line: number; reason: string }[] = [];
  for (const [n, row] of rows.entries()) {
    if (n === 0) continue;
    // A sign that keeps spreadsheets from computing is not part of the name.
    const name = (row[frame] ?? '').trim().replace(/^'(?=[=+\-@])/, '');
    const said = (row[choice] ?? '').trim().toLowerCase();
    const chosen = ['yes', 'y', '1', 'x', 'true'].includes(said);
    if (!name) odd.push({ line: lines[n], reason: 'no frame is named' });
    else if (!chosen && !['no', 'n', '0', '', 'false'].includes(said))
      odd.push({ line: lines[n], reason: `“${said}” is neither yes nor no` });
    else {
      const many = Math.round(Number(row[copies] ?? ''));
      choices.push({
        frame: name,
        chosen,
        copies: chosen ? Math.max(1, Math.min(999, many || 1)) : 0,
        note: (row[note] ?? '').trim().slice(0, 200),
      });
    }
  }
  return { choices, odd };
}

/** What somebody ordered, in one line, from the choices among their frames. */
export function orderWords(choices: readonly GuestChoice[]): string {
  return choices
    .filter(({ chosen }) => chosen)
    .map(({ frame, copies, note }) => `${copies} × ${frame}${note ? ` (${note})` : ''}`)
    .join(', ');
}

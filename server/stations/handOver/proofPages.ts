import type { HandedOver } from './manifest.ts';

/** Pages to look at and choose from: one HTML file, its pictures beside it, nothing fetched from anywhere. */

/** What stands in the list that comes back, by column. */
export const choiceColumns = ['frame', 'choice', 'copies', 'note'] as const;

export function proofHtml({ id, shoot, small }: HandedOver): string {
  const pictures = small.map(({ file, frame, subject, number, width, height }) => ({
    src: file.replace(/^proof\//, ''),
    frame,
    subject,
    number,
    width,
    height,
  }));
  const title = escaped(`${shoot.name}, ${shoot.date}`);
  // “<” never stands in the data, so that no name can end the script.
  const data = JSON.stringify({ key: `proof-${id}-${shoot.date}`, name: shoot.name, pictures }).replace(
    /</g,
    '\\u003c',
  );
  return `<!doctype html>
<html lang="en">
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta http-equiv="Content-Security-Policy" content="default-src 'none'; img-src 'self' file: data:; style-src 'unsafe-inline'; script-src 'unsafe-inline'">
<title>${title}</title>
<style>${style}</style>
<header>
<h1>${title}</h1>
<p>Tick the pictures that you want, say how many prints of each, and save the list. It stays in this browser until you do.</p>
<p class="bar"><label>Show <select id="who"><option value="">everybody</option></select></label>
<label><input type="checkbox" id="only"> only those chosen</label>
<button id="save" type="button">Save the list</button> <output id="count"></output></p>
</header>
<main id="sheet"></main>
<script>const shoot = ${data};
${script}</script>
</html>
`;
}

function escaped(text: string): string {
  return text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');
}

const style = `
:root { font: 15px/1.45 system-ui, sans-serif; color: #1c1c1c; background: #e4e4e4 }
body { margin: 0 }
header { position: sticky; top: 0; background: #e4e4e4; border-bottom: 1px solid #1c1c1c; padding: 12px 20px }
h1 { font-size: 20px; margin: 0 }
p { margin: 6px 0 }
.bar { display: flex; flex-wrap: wrap; gap: 18px; align-items: center }
main { display: grid; grid-template-columns: repeat(auto-fill, minmax(220px, 1fr)); gap: 16px; padding: 20px }
figure { margin: 0; padding: 8px; border-top: 1px solid #888 }
figure[data-chosen=yes] { border-top: 4px solid #8a1c6e; padding-top: 5px }
img { width: 100%; height: 260px; object-fit: contain; background: #bdbdbd }
input[type=number] { width: 4em }
.note { width: 100%; box-sizing: border-box }
button, select, input { font: inherit }
:focus-visible { outline: 2px solid #8a1c6e; outline-offset: 2px }`;

const script = `
const memory = { load() { try { return JSON.parse(localStorage.getItem(shoot.key)) || {} } catch { return {} } },
  save() { try { localStorage.setItem(shoot.key, JSON.stringify(chosen)) } catch {} } };
const chosen = memory.load();
const sheet = document.getElementById('sheet'), who = document.getElementById('who'), only = document.getElementById('only');
for (const name of [...new Set(shoot.pictures.map((p) => p.subject).filter(Boolean))].sort()) {
  const option = document.createElement('option'); option.value = option.textContent = name; who.append(option);
}
const make = (tag, parts) => Object.assign(document.createElement(tag), parts);
function count() {
  const many = Object.values(chosen).filter((one) => one.yes).length;
  document.getElementById('count').textContent = many + ' of ' + shoot.pictures.length + ' chosen';
}
function show() {
  sheet.replaceChildren();
  for (const picture of shoot.pictures) {
    const one = chosen[picture.frame] || { yes: false, copies: 1, note: '' };
    if ((who.value && picture.subject !== who.value) || (only.checked && !one.yes)) continue;
    const figure = make('figure', {}), label = make('label', {}), keep = () => { chosen[picture.frame] = one; memory.save(); figure.dataset.chosen = one.yes ? 'yes' : 'no'; count(); };
    const tick = make('input', { type: 'checkbox', checked: one.yes, onchange() { one.yes = tick.checked; keep(); } });
    const copies = make('input', { type: 'number', min: 1, max: 99, value: one.copies, ariaLabel: 'Prints of ' + picture.frame,
      onchange() { one.copies = Math.max(1, Math.min(99, Math.round(copies.valueAsNumber) || 1)); copies.value = one.copies; keep(); } });
    const note = make('input', { className: 'note', maxLength: 200, placeholder: 'Note', ariaLabel: 'Note on ' + picture.frame, value: one.note, oninput() { one.note = note.value; keep(); } });
    label.append(make('img', { src: picture.src, loading: 'lazy', alt: [picture.number, picture.subject, picture.frame].filter(Boolean).join(', ') }), tick, ' ' + [picture.number, picture.subject].filter(Boolean).join(' ') + ' ' + picture.frame);
    figure.dataset.chosen = one.yes ? 'yes' : 'no';
    figure.append(label, make('p', {}), note); figure.querySelector('p').append('Prints ', copies);
    sheet.append(figure);
  }
  count();
}
const cell = (text) => { const safe = /^[=+\\-@\\t\\r]/.test(String(text)) ? "'" + text : String(text); return '"' + safe.replace(/"/g, '""') + '"'; };
document.getElementById('save').onclick = () => {
  const rows = [${JSON.stringify(choiceColumns)}];
  for (const { frame } of shoot.pictures) { const one = chosen[frame]; if (one) rows.push([frame, one.yes ? 'yes' : 'no', one.yes ? one.copies : 0, one.note]); }
  const text = '\\ufeff' + rows.map((row) => row.map(cell).join(',')).join('\\r\\n') + '\\r\\n';
  const link = make('a', { href: URL.createObjectURL(new Blob([text], { type: 'text/csv' })), download: 'choices ' + shoot.name + '.csv' });
  link.click(); setTimeout(() => URL.revokeObjectURL(link.href), 1000);
};
who.onchange = only.onchange = show;
show();`;

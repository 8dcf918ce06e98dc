import { Button, Dialog } from '@mui/material';
import { useState } from 'react';
import type { LibraryEntry, LibraryItem } from '../../../contract/index.ts';
import { materials, type Material, type Plan } from '../../../core/plan/index.ts';
import { api } from '../../state/api.ts';
import { attempt } from '../../state/store.ts';
import type { ThingId } from './things.ts';

interface Props {
  open: boolean;
  plan: Plan;
  chosen: ThingId;
  library: LibraryItem[];
  onClose: () => void;
  onChanged: () => void;
}

/** Keeps the chosen lamp, camera or material under a name of one's own, and lists what was kept. */
export function LibraryDialog({ open, plan, chosen, library, onClose, onChanged }: Props) {
  const [name, setName] = useState('');
  const draft = entryOf(plan, chosen);
  const [costs, setCosts] = useState<Partial<Material>>({});
  const keep = async (): Promise<void> => {
    if (!draft || !name.trim()) return;
    const item = {
      ...draft,
      entry: { ...draft.entry, ...(draft.kind === 'material' ? costs : {}), name: name.trim() },
    } as LibraryEntry;
    const same = library.find((kept) => kept.item.kind === item.kind && kept.item.entry.name === item.entry.name);
    if (await attempt(same ? api.changeLibrary(same.id, item) : api.addToLibrary(item))) {
      setName('');
      onChanged();
    }
  };
  return (
    <Dialog open={open} onClose={onClose} aria-label="Library">
      <div className="library">
        <h2>Library of your own</h2>
        {draft && (
          <form
            onSubmit={(event) => {
              event.preventDefault();
              void keep();
            }}
          >
            <label className="choice">
              Keep the chosen {draft.kind} as
              <input autoFocus value={name} maxLength={120} onChange={(event) => setName(event.target.value)} />
            </label>
            {draft.kind === 'material' && (
              <div className="fields">
                {(['price', 'uses', 'mass', 'setUp', 'widest'] as const).map((field) => (
                  <label key={field} className="pair">
                    {
                      {
                        price: 'Price of a square metre',
                        uses: 'Lasts for shoots',
                        mass: 'kg of a square metre',
                        setUp: 'Minutes to set up',
                        widest: 'Widest without a seam, m',
                      }[field]
                    }
                    <input
                      type="number"
                      min={0}
                      step="any"
                      defaultValue={draft.entry[field]}
                      onChange={(event) => setCosts({ ...costs, [field]: Number(event.target.value) })}
                    />
                  </label>
                ))}
              </div>
            )}
            <Button type="submit" disabled={!name.trim()}>
              Keep it
            </Button>
          </form>
        )}
        <ul className="savings">
          {library.map(({ id, item }) => (
            <li key={id}>
              <span>{item.entry.name}</span>
              <span className="quiet">{item.kind}</span>
              <Button
                variant="text"
                aria-label={`Remove ${item.entry.name} from the library`}
                onClick={() => void attempt(api.removeFromLibrary(id)).then(onChanged)}
              >
                Remove
              </Button>
            </li>
          ))}
          {!library.length && <li className="quiet">Nothing kept yet. What comes with Silent Lawn is always there.</li>}
        </ul>
        <div className="actions">
          <Button onClick={onClose}>Done</Button>
        </div>
      </div>
    </Dialog>
  );
}

/** The library's form of what is chosen in the plan; nothing for people, room and day. */
function entryOf(plan: Plan, chosen: ThingId): LibraryEntry | undefined {
  if (chosen === 'camera') {
    const { sensorWidth, sensorHeight, pixelsAcross, pixelsDown, focal } = plan.camera;
    return { kind: 'camera', entry: { name: '', sensorWidth, sensorHeight, pixelsAcross, pixelsDown, focal } };
  }
  if (chosen === 'screen') {
    const known = [...plan.materials, ...materials].find((m) => m.name === plan.screen.material) ?? materials[0];
    const { gloss, wrinklePeriod, wrinkleDepth } = plan.screen;
    return { kind: 'material', entry: { ...known, gloss, wrinklePeriod, wrinkleDepth } };
  }
  const lamp = plan.lamps.find((l) => `lamp:${l.id}` === chosen);
  if (!lamp) return undefined;
  const { kind, output, unit, beam, width, height, temperature, tint, watts, flashDuration } = lamp;
  return {
    kind: 'lamp',
    entry: { name: '', kind, output, unit, beam, width, height, temperature, tint, watts, flashDuration },
  };
}

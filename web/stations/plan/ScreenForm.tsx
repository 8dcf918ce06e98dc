import { Button } from '@mui/material';
import { materials, screenColours, screenReflectance, supplies, type Plan } from '../../../core/plan/index.ts';
import { Numbers, WordChoice, type ThingProps } from './fields.tsx';
import { thingFacts } from './things.ts';

/** The numbers of the screen. */
export function ScreenForm({ plan, units, library, onChange, onLibrary }: ThingProps) {
  const { screen } = plan;
  const set = (change: Partial<Plan['screen']>, label: string, more: Partial<Plan> = {}): void =>
    onChange({ ...plan, ...more, screen: { ...screen, ...change } }, label);
  const own = library.flatMap(({ item }) => (item.kind === 'material' ? [item.entry] : []));
  const all = [...materials, ...own];
  const note = [...plan.materials, ...all].find((m) => m.name === screen.material)?.note;
  return (
    <>
      <WordChoice
        label="Colour"
        value={screen.colour}
        options={screenColours}
        onChange={(colour) =>
          set(
            { colour: colour as Plan['screen']['colour'], ...screenReflectance[colour as Plan['screen']['colour']] },
            'colour of the screen',
          )
        }
      />
      <WordChoice
        label="Material"
        value={screen.material}
        options={all.map((m) => m.name)}
        onChange={(name) => {
          const material = all.find((m) => m.name === name);
          if (!material) return;
          const { gloss, wrinklePeriod, wrinkleDepth } = material;
          set(
            { material: name, gloss, wrinklePeriod, wrinkleDepth },
            'material of the screen',
            materials.includes(material)
              ? {}
              : { materials: [...plan.materials.filter((m) => m.name !== name), material] },
          );
        }}
      />
      {note && <p className="quiet">{note}</p>}
      <WordChoice
        label="Is"
        value={screen.supply}
        options={supplies}
        onChange={(supply) => set({ supply: supply as Plan['screen']['supply'] }, 'supply of the screen')}
      />
      <Numbers
        facts={thingFacts.screen}
        of={screen}
        units={units}
        label="the screen"
        onChange={(value, label) => onChange({ ...plan, screen: value }, label)}
        without={plan.room.outdoors ? [] : ['base', 'ballast']}
      />
      <Button variant="text" onClick={onLibrary}>
        Keep the material in the library
      </Button>
    </>
  );
}

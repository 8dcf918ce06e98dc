import { Accordion, AccordionDetails, AccordionSummary, Box, Button, Slider, Tooltip } from '@mui/material';
import type { ReactNode } from 'react';
import { linearToSrgb } from '../../../core/colour/transfer.ts';
import {
  defaultRecipe,
  personLight,
  recipeChoices,
  recipeSettings,
  sameRecipe,
  settingNames,
  spillColour,
  type Recipe,
  type SettingName,
} from '../../../core/cut/recipe.ts';
import { spillWay } from '../../../core/cut/spill.ts';
import { Choice } from '../../shared/Choice.tsx';
import { NumberField } from '../../shared/NumberField.tsx';
import type { ByCard } from './byCard.ts';
import { CoverageScale } from './CoverageScale.tsx';
import { OutlineProfile } from './OutlineProfile.tsx';

/** A size that is being set, to be shown on the frame: pixels of the file. */
export interface Sizing {
  name: 'specks' | 'holes';
  across: number;
}

interface Props {
  recipe: Recipe;
  /** How this frame's coverage is spread; see CoverageScale. */
  coverage: number[] | undefined;
  /** Follows the slider. */
  onChange: (recipe: Recipe) => void;
  /** On its release; with what it is called. */
  onCommit: (recipe: Recipe, label: string) => void;
  onSizing: (sizing: Sizing | undefined) => void;
  /** What the card of the setup’s last round asks for. */
  byCard: ByCard | undefined;
}

const Asked = ({ children }: { children: ReactNode }) => (
  <Box sx={{ borderTop: 1, borderColor: 'divider', pt: 0.6, pb: 0.4 }}>{children}</Box>
);
const shared: readonly SettingName[] = ['floor', 'ceiling', 'edge', 'softness', 'specks', 'holes'];

/** The craft's questions, each with what answers it; what is set seldom is folded away. */
export function Questions({ recipe, coverage, onChange, onCommit, onSizing, byCard }: Props) {
  const asked = settingNames.filter(
    (name) => !shared.includes(name) && (recipeSettings[name].methods?.includes(recipe.method) ?? true),
  );
  const light: readonly SettingName[] = personLight;
  const folded: readonly SettingName[] = [...light, ...spillColour];
  const seldom = asked.filter((name) => recipeSettings[name].seldom && !folded.includes(name));
  const ofSpill = spillColour.filter(
    (name) =>
      (name !== 'spillFade' || recipe.spillHues < recipeSettings.spillHues.max) &&
      ((name !== 'replacedHue' && name !== 'replacedPurity') || recipe.replaced > 0),
  );
  const commit = (next: Recipe, label: string): void => {
    onChange(next);
    onCommit(next, label);
  };
  const question = (name: SettingName) => (
    <Question key={name} name={name} recipe={recipe} onChange={onChange} onCommit={commit} />
  );
  return (
    <div>
      <RecipeChoice name="method" recipe={recipe} onCommit={commit} />
      <Asked>
        <CoverageScale recipe={recipe} coverage={coverage} onChange={onChange} onCommit={commit} />
      </Asked>
      {asked.filter((name) => !seldom.includes(name) && !folded.includes(name)).map(question)}
      <Fold title="Outline, small pieces" names={[...seldom, 'edge', 'softness', 'specks', 'holes']} recipe={recipe}>
        {seldom.map(question)}
        <Asked>
          <OutlineProfile recipe={recipe} onChange={onChange} onCommit={commit} />
        </Asked>
        {(['specks', 'holes'] as const).map((name) => (
          <Question
            key={name}
            name={name}
            recipe={recipe}
            onChange={(next) => {
              onChange(next);
              onSizing({ name, across: next[name] });
            }}
            onCommit={commit}
            onFocus={(on) => onSizing(on ? { name, across: recipe[name] } : undefined)}
          />
        ))}
      </Fold>
      <Fold title="How spill goes, and what it leaves" names={['spillMethod', ...spillColour]} recipe={recipe}>
        <RecipeChoice name="spillMethod" recipe={recipe} onCommit={commit} />
        {ofSpill.map(question)}
        {recipe.replaced > 0 && (
          <Box
            role="img"
            aria-label="The colour it is drawn to"
            sx={{ height: 14, mt: 0.5 }}
            style={{ background: leftColour(recipe) }}
          />
        )}
      </Fold>
      <Fold title="Light on the person, put right" names={personLight} recipe={recipe}>
        {byCard ? (
          <Asked>
            <p>{byCard.words}</p>
            <Button
              disabled={personLight.every((name) => recipe[name] === byCard.set[name])}
              onClick={() => commit({ ...recipe, ...byCard.set }, 'light by the card')}
            >
              Take it from the card
            </Button>
          </Asked>
        ) : (
          <p className="quiet">A grey card or the chart, photographed for a round at Check, gives these by itself.</p>
        )}
        {personLight.map(question)}
      </Fold>
      <Button
        variant="text"
        disabled={sameRecipe(recipe, defaultRecipe)}
        onClick={() => commit(defaultRecipe, 'settings')}
      >
        Back to the marks
      </Button>
    </div>
  );
}

/** Settings that are folded away; its line says whether one of them is changed. */
function Fold({
  title,
  names,
  recipe,
  children,
}: {
  title: string;
  names: readonly (keyof Recipe)[];
  recipe: Recipe;
  children: ReactNode;
}) {
  return (
    <Accordion slotProps={{ heading: { component: 'div' }, transition: { unmountOnExit: true } }}>
      <AccordionSummary>
        <span>
          {title}
          {names.some((name) => recipe[name] !== defaultRecipe[name]) && <span className="quiet"> · changed</span>}
        </span>
      </AccordionSummary>
      <AccordionDetails>{children}</AccordionDetails>
    </Accordion>
  );
}

/** What spill is drawn to, as a colour of the page, at a middle brightness. */
function leftColour(recipe: Recipe): string {
  const { tint } = spillWay(recipe);
  return `rgb(${tint.map((v) => Math.round(255 * linearToSrgb(Math.min(1, 0.3 * v)))).join(' ')})`;
}

function RecipeChoice<N extends keyof typeof recipeChoices>({
  name,
  recipe,
  onCommit,
}: {
  name: N;
  recipe: Recipe;
  onCommit: Props['onCommit'];
}) {
  const { question, label, options } = recipeChoices[name];
  const titles: Record<string, { title: string; effect: string }> = options;
  return (
    <Asked>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 1, alignItems: 'baseline' }}>
        <strong style={{ whiteSpace: 'nowrap' }}>{question}</strong>
        <Choice
          aria={label}
          value={recipe[name]}
          options={Object.entries(titles).map(([value, { title }]) => ({ value, title }))}
          onChange={(value) => onCommit({ ...recipe, [name]: value }, label.toLowerCase())}
        />
      </Box>
      <p className="quiet">{titles[recipe[name]].effect}</p>
    </Asked>
  );
}

function Question({
  name,
  recipe,
  onChange,
  onCommit,
  onFocus,
}: Pick<Props, 'recipe' | 'onChange' | 'onCommit'> & { name: SettingName; onFocus?: (on: boolean) => void }) {
  const facts = recipeSettings[name];
  const set = (value: number): Recipe => ({ ...recipe, [name]: value });
  const commit = (value: number): void => onCommit(set(value), facts.label.toLowerCase());
  return (
    <Asked>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: '1fr auto',
          columnGap: 1,
          alignItems: 'baseline',
          '& > *:nth-of-type(even), & > .MuiInput-root': { justifySelf: 'end' },
        }}
      >
        <Tooltip title={facts.effect} placement="left" describeChild>
          <strong>{facts.question}</strong>
        </Tooltip>
        <NumberField {...facts} hideLabel value={recipe[name]} onChange={commit} />
        <span className="quiet">{facts.label}</span>
        <span className="quiet">{facts.unit}</span>
      </Box>
      <Slider
        aria-label={facts.question}
        min={facts.min}
        max={facts.max}
        step={facts.step}
        value={recipe[name]}
        marks={[{ value: facts.default }]}
        onFocus={() => onFocus?.(true)}
        onBlur={() => onFocus?.(false)}
        onChange={(_, value) => onChange(set(value))}
        onChangeCommitted={(_, value) => commit(value)}
      />
    </Asked>
  );
}

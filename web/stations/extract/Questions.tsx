import { Button, Slider, Tooltip } from '@mui/material';
import {
  defaultRecipe,
  recipeChoices,
  recipeSettings,
  sameRecipe,
  settingNames,
  type Recipe,
  type SettingName,
} from '../../../core/cut/recipe.ts';

interface Props {
  recipe: Recipe;
  /** Follows the slider. */
  onChange: (recipe: Recipe) => void;
  /** On its release; with what it is called. */
  onCommit: (recipe: Recipe, label: string) => void;
}

/** The craft's questions, each with the one setting that answers it; what is set seldom is folded away. */
export function Questions({ recipe, onChange, onCommit }: Props) {
  const asked = settingNames.filter((name) => recipeSettings[name].methods?.includes(recipe.method) ?? true);
  const seldom = asked.filter((name) => recipeSettings[name].seldom);
  const commit = (next: Recipe, label: string): void => {
    onChange(next);
    onCommit(next, label);
  };
  const question = (name: SettingName) => (
    <Question key={name} name={name} recipe={recipe} onChange={onChange} onCommit={onCommit} />
  );
  return (
    <div>
      <Choice name="method" recipe={recipe} onCommit={commit} />
      {asked.filter((name) => !seldom.includes(name)).map(question)}
      <details className="more">
        <summary>
          Ways to remove spill, light, edge, specks
          {changed(recipe, seldom) && <span className="quiet"> · changed</span>}
        </summary>
        <Choice name="spillMethod" recipe={recipe} onCommit={commit} />
        {seldom.map(question)}
      </details>
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

function changed(recipe: Recipe, names: SettingName[]): boolean {
  return recipe.spillMethod !== defaultRecipe.spillMethod || names.some((name) => recipe[name] !== defaultRecipe[name]);
}

function Choice<N extends keyof typeof recipeChoices>({
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
    <div className="question">
      <div className="ask">
        <strong>{question}</strong>
        <select
          aria-label={label}
          value={recipe[name]}
          onChange={(event) => onCommit({ ...recipe, [name]: event.target.value }, label.toLowerCase())}
        >
          {Object.entries(titles).map(([value, { title }]) => (
            <option key={value} value={value}>
              {title}
            </option>
          ))}
        </select>
      </div>
      <p className="quiet">{titles[recipe[name]].effect}</p>
    </div>
  );
}

function Question({ name, recipe, onChange, onCommit }: { name: SettingName } & Props) {
  const facts = recipeSettings[name];
  const set = (value: number): Recipe => ({ ...recipe, [name]: value });
  const commit = (value: number): void => onCommit(set(value), facts.label.toLowerCase());
  return (
    <div className="question">
      <div className="ask">
        <Tooltip title={facts.effect} placement="left">
          <strong>{facts.question}</strong>
        </Tooltip>
        <NumberField
          {...facts}
          value={recipe[name]}
          onCommit={(value) => {
            onChange(set(value));
            commit(value);
          }}
        />
      </div>
      <div className="label">
        <span>{facts.label}</span>
        <span>{facts.unit}</span>
      </div>
      <Slider
        aria-label={facts.question}
        min={facts.min}
        max={facts.max}
        step={facts.step}
        value={recipe[name]}
        marks={[{ value: facts.default }]}
        onChange={(_, value) => onChange(set(value))}
        onChangeCommitted={(_, value) => commit(value as number)}
      />
    </div>
  );
}

function NumberField({
  label,
  value,
  min,
  max,
  step,
  onCommit,
}: {
  label: string;
  value: number;
  min: number;
  max: number;
  step: number;
  onCommit: (value: number) => void;
}) {
  return (
    <input
      key={value}
      type="number"
      aria-label={label}
      defaultValue={Number(value.toFixed(3))}
      min={min}
      max={max}
      step={step}
      onBlur={(event) => {
        const typed = Number(event.target.value);
        if (event.target.value !== '' && Number.isFinite(typed) && typed !== value)
          onCommit(Math.max(min, Math.min(max, typed)));
      }}
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
    />
  );
}

import { describe, expect, test } from 'vitest';
import { layChange, mergeChange } from './merge.ts';

interface Thing {
  name: string;
  recipe: { reach: number; spill: number };
  masks: { effect: string }[];
}
const seen: Thing = { name: 'Tent', recipe: { reach: 2, spill: 1 }, masks: [{ effect: 'clear' }] };

describe('mergeChange', () => {
  test('what only one side changed is taken from that side', () => {
    const now = { ...seen, recipe: { reach: 2, spill: 0.5 } };
    expect(mergeChange(now, { recipe: seen.recipe }, { recipe: { reach: 3, spill: 1 } })).toEqual({
      ok: true,
      value: { ...seen, recipe: { reach: 3, spill: 0.5 } },
    });
  });

  test('lists keep what either added and lose what either took away', () => {
    const now = { ...seen, masks: [{ effect: 'clear' }, { effect: 'crop' }] };
    expect(mergeChange(now, { masks: seen.masks }, { masks: [{ effect: 'solid' }] })).toEqual({
      ok: true,
      value: { ...seen, masks: [{ effect: 'crop' }, { effect: 'solid' }] },
    });
  });

  test('the same thing changed in different ways is named with what the other made of it', () => {
    const now = { ...seen, recipe: { reach: 4, spill: 1 } };
    expect(mergeChange(now, { recipe: seen.recipe }, { recipe: { reach: 3, spill: 1 } })).toEqual({
      ok: false,
      path: ['recipe', 'reach'],
      now: 4,
    });
  });

  test('sent twice it changes nothing the second time', () => {
    const to = { name: 'Hall', masks: [{ effect: 'clear' }, { effect: 'solid' }] };
    const once = mergeChange(seen, { name: seen.name, masks: seen.masks }, to);
    if (!once.ok) throw new Error('refused');
    expect(mergeChange(once.value, { name: seen.name, masks: seen.masks }, to)).toEqual(once);
  });

  test('without what it was made on a field is set as it is', () => {
    expect(mergeChange({ ...seen, name: 'Hall' }, {}, { name: 'Barn' })).toEqual({
      ok: true,
      value: { ...seen, name: 'Barn' },
    });
  });

  test('shown before it is saved, the own change wins', () => {
    const now = { ...seen, recipe: { reach: 4, spill: 0.2 } };
    expect(layChange(now, { name: 'Tent' }, { name: 'Hall' }).name).toBe('Hall');
    expect(layChange(now, { recipe: seen.recipe }, { recipe: { reach: 3, spill: 1 } }).recipe.reach).toBe(3);
  });
});

describe('lists whose items have names of their own', () => {
  const item = (id: string, part: object = {}) => ({ id, on: true, at: 1, ...part });
  const merged = (now: object[], seen: object[], to: object[]) =>
    mergeChange({ list: now }, { list: seen }, { list: to });

  test('what two sides changed of one item is one item with both', () => {
    const seen = [item('a'), item('b')];
    const now = [item('a', { at: 5 }), item('b')];
    const to = [item('a', { on: false }), item('b')];
    expect(merged(now, seen, to)).toEqual({ ok: true, value: { list: [item('a', { at: 5, on: false }), item('b')] } });
  });

  test('what either took away stays away, what either added stays; the same added twice is one', () => {
    const seen = [item('a'), item('b'), item('c')];
    const now = [item('b'), item('c'), item('there')];
    const to = [item('a', { on: false }), item('b'), item('here'), item('there')];
    expect(merged(now, seen, to)).toEqual({ ok: true, value: { list: [item('b'), item('there'), item('here')] } });
  });

  test('the same set in two ways is refused by its name', () => {
    const result = merged([item('a', { at: 2 })], [item('a')], [item('a', { at: 3 })]);
    expect(result).toEqual({ ok: false, path: ['list', 'a', 'at'], now: 2 });
  });

  test('taking a change back brings the item back as it was, beside what others did', () => {
    const [before, after] = [[item('a'), item('b')], [item('b')]];
    expect(merged([item('b', { at: 9 }), item('c')], after, before)).toEqual({
      ok: true,
      value: { list: [item('b', { at: 9 }), item('c'), item('a')] },
    });
  });
});

import { expect, test } from 'vitest';
import { seededRandom } from '../../core/random.ts';
import { Overlay } from './overlay.ts';

interface Thing {
  id: number;
  revision: number;
  value: number;
}

const thing = (id: number, revision: number, value = 0): Thing => ({ id, revision, value });

test('the newest reading stays, and what is gone does not come back from an older one', () => {
  const things = new Overlay<Thing>();
  things.take([thing(1, 5, 50), thing(2, 5)]);
  things.take([thing(1, 4, 40)]);
  things.remove([2], 6);
  things.take([thing(2, 5)]);
  expect(things.shown()).toEqual([thing(1, 5, 50)]);
  things.take([thing(2, 7)]);
  expect(things.shown()).toHaveLength(2);
});

test('all there is: what is missing in it and older is gone, what was told later stays', () => {
  const things = new Overlay<Thing>();
  things.take([thing(1, 1), thing(2, 1), thing(3, 9)]);
  things.takeAll([thing(1, 5)], 5);
  expect(things.shown().map(({ id }) => id)).toEqual([1, 3]);
});

test('changes lie over whatever is told, in the order in which they were made, until they are lifted', () => {
  const things = new Overlay<Thing>();
  things.take([thing(1, 1, 2), thing(2, 1, 2)]);
  const twice = { ids: new Set([1]), lay: (item: Thing) => ({ ...item, value: item.value * 2 }) };
  const more = { ids: new Set([1, 2]), lay: (item: Thing) => ({ ...item, value: item.value + 1 }) };
  things.lay(twice);
  things.lay(more);
  expect(things.shown().map(({ value }) => value)).toEqual([5, 3]);
  things.take([thing(1, 2, 10)]);
  expect(things.shown()[0].value).toBe(21);
  things.lift(twice);
  expect(things.shown().map(({ value }) => value)).toEqual([11, 3]);
  things.lift(more);
  expect(things.shown()[1], 'untouched items are the very ones that were told').toBe(things.shown()[1]);
});

test('readings in any order end in the same state', () => {
  const random = seededRandom(7);
  // What a server tells: each step reads some of its items, with a higher revision than the step before.
  const steps: ((to: Overlay<Thing>) => void)[] = [];
  const truth = new Map<number, Thing>();
  for (let revision = 1; revision <= 60; revision++) {
    const id = 1 + Math.floor(random() * 8);
    if (random() < 0.2) {
      truth.delete(id);
      steps.push((to) => to.remove([id], revision));
    } else {
      const item = thing(id, revision, random());
      truth.set(id, item);
      steps.push((to) => to.take([item]));
    }
    if (revision % 15 === 0) {
      const all = [...truth.values()].map((item) => ({ ...item, revision }));
      for (const item of all) truth.set(item.id, item);
      steps.push((to) => to.takeAll(all, revision));
    }
  }
  for (let round = 0; round < 30; round++) {
    const shuffled = steps.map((step) => ({ step, key: random() })).sort((a, b) => a.key - b.key);
    const things = new Overlay<Thing>();
    for (const { step } of shuffled) step(things);
    const shown = things.shown().sort((a, b) => a.id - b.id);
    expect(shown).toEqual([...truth.values()].sort((a, b) => a.id - b.id));
  }
});

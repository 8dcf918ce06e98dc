import { diffusions, entry, gels, lampFactsByKind, materials } from './library.ts';
import type { Plan, Supply } from './plan.ts';

export interface KitItem {
  name: string;
  count: number;
  supply: Supply;
  /** Cost for this shoot: wear of what is owned, hire, or what is used up. */
  cost: number;
  /** kg in all. */
  mass: number;
  /** Minutes to set up, for one person. */
  setUp: number;
}

export interface Kit {
  items: KitItem[];
  cost: number;
  mass: number;
  setUpMinutes: number;
  packDownMinutes: number;
}

/** Wear of owned gear for one shoot, as a share of its price. */
const WEAR = 0.02;
const HIRE_DAY_OF_MATERIAL = 0.12;

export function kitOf(plan: Plan): Kit {
  const { screen, lamps, room, event } = plan;
  const material = entry([...plan.materials, ...materials], screen.material, 'screen.material');
  const area = screen.width * (screen.height + screen.sweep);
  const price = area * material.price;
  const items: KitItem[] = [
    {
      name: `${material.name}, ${screen.colour}, ${screen.width.toFixed(1)} × ${(screen.height + screen.sweep).toFixed(1)} m`,
      count: 1,
      supply: screen.supply,
      cost: screen.supply === 'hired' ? price * HIRE_DAY_OF_MATERIAL : price / material.uses,
      mass: area * material.mass,
      setUp: material.setUp * Math.max(0.5, Math.sqrt(area / 6)),
    },
  ];
  const add = (name: string, count: number, supply: Supply, cost: number, mass: number, setUp: number): void => {
    if (count > 0) items.push({ name, count, supply, cost, mass, setUp });
  };
  const mounted = material.name !== 'Painted wall';
  add('Screen stand with crossbar and clamps', mounted && material.name !== 'Spring frame' ? 1 : 0, 'owned', 3, 7, 8);
  for (const lamp of lamps) {
    const kind = lampFactsByKind[lamp.kind];
    if (!kind.standing && lamp.kind !== 'ring') continue;
    add(lamp.name, 1, lamp.supply, lamp.supply === 'hired' ? kind.hire : kind.price * WEAR, kind.mass, kind.setUp);
    if (lamp.gel !== 'none') add(`Gel, ${entry(gels, lamp.gel, 'gel').name}`, 1, 'used up', 4, 0.05, 1);
    if (lamp.diffusion !== 'none')
      add(`Diffusion, ${entry(diffusions, lamp.diffusion, 'diffusion').name}`, 1, 'used up', 3, 0.1, 1);
    if ([lamp.cutLeft, lamp.cutRight, lamp.cutTop, lamp.cutBottom].some((cut) => cut < 90))
      add(`Flag for ${lamp.name}`, 1, 'owned', 0.5, 1.5, 3);
  }
  const stands = lamps.filter((lamp) => lampFactsByKind[lamp.kind].standing).length;
  add('Sandbag, 6 kg', stands, 'owned', 0.2 * stands, 6 * stands, 0.5 * stands);
  add(
    'Cable, 10 m, and tape',
    lamps.filter((lamp) => lamp.circuit).length,
    'used up',
    lamps.filter((lamp) => lamp.circuit).length * 1.2,
    lamps.filter((lamp) => lamp.circuit).length * 1.4,
    lamps.filter((lamp) => lamp.circuit).length * 1.5,
  );
  add('Ballast', room.outdoors && screen.ballast > 0 ? 1 : 0, 'owned', 2, screen.ballast, screen.ballast / 8);
  add('Camera, lens, tripod', 1, 'owned', 6, 5.5, 6);
  add('Grey card, matt ball, colour chart, tape measure, steamer', 1, 'owned', 1, 3.5, 10);
  const sum = (of: (item: KitItem) => number): number => items.reduce((total, item) => total + of(item), 0);
  const setUpMinutes = sum((item) => item.setUp) / Math.min(2.5, 0.7 + 0.3 * event.helpers);
  return {
    items,
    cost: sum((item) => item.cost),
    mass: sum((item) => item.mass),
    setUpMinutes,
    packDownMinutes: setUpMinutes * 0.55,
  };
}

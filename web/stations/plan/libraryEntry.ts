import type { LibraryEntry } from '../../../contract/index.ts';
import { materials, type Plan } from '../../../core/plan/index.ts';
import type { ThingId } from './things.ts';

/** The library's form of what is chosen in the plan; nothing for people, room and day. */
export function entryOf(plan: Plan, chosen: ThingId): LibraryEntry | undefined {
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

import {
  cameraFacts,
  circuitFacts,
  eventFacts,
  lampFacts,
  personFacts,
  placeFacts,
  roomFacts,
  screenFacts,
  type Fact,
  type Plan,
  type Vec,
} from '../../../core/plan/index.ts';

/** What can be chosen and changed in a plan: the room, the screen, a lamp, … */
export type ThingId =
  'room' | 'screen' | 'camera' | 'day' | 'power' | `lamp:${string}` | `person:${string}` | `aim:${string}`;

export interface Thing {
  id: ThingId;
  name: string;
}

export function thingsOf(plan: Plan): Thing[] {
  return [
    { id: 'screen', name: 'Screen' },
    ...plan.lamps.map((lamp): Thing => ({ id: `lamp:${lamp.id}`, name: lamp.name })),
    ...plan.people.map((person): Thing => ({ id: `person:${person.id}`, name: person.name })),
    { id: 'camera', name: 'Camera' },
    { id: 'room', name: 'Room and place' },
    { id: 'power', name: 'Circuits' },
    { id: 'day', name: 'Day and guests' },
  ];
}

/** Where a thing that can be moved is; an aim is moved by itself. */
export function placeOf(plan: Plan, id: ThingId): Vec | undefined {
  if (id === 'camera') return plan.camera.position;
  const [kind, key] = id.split(':');
  const lamp = plan.lamps.find((l) => l.id === key);
  if (kind === 'lamp') return lamp?.position;
  if (kind === 'aim') return lamp?.aim;
  if (kind === 'person') {
    const person = plan.people.find((p) => p.id === key);
    return person && { x: person.x, y: person.height, z: person.z };
  }
  return undefined;
}

/** The plan with a thing put somewhere, kept within the ranges of the facts. */
export function withPlace(plan: Plan, id: ThingId, place: Vec): Plan {
  const at: Vec = {
    x: within(placeFacts.x, place.x),
    y: within(placeFacts.y, place.y),
    z: within(placeFacts.z, place.z),
  };
  if (id === 'camera') return { ...plan, camera: { ...plan.camera, position: { ...at, z: Math.max(0.3, at.z) } } };
  const [kind, key] = id.split(':');
  if (kind === 'lamp')
    return { ...plan, lamps: plan.lamps.map((lamp) => (lamp.id === key ? { ...lamp, position: at } : lamp)) };
  if (kind === 'aim')
    return { ...plan, lamps: plan.lamps.map((lamp) => (lamp.id === key ? { ...lamp, aim: at } : lamp)) };
  return {
    ...plan,
    people: plan.people.map((person) =>
      person.id === key ? { ...person, x: at.x, z: within(personFacts.z, at.z) } : person,
    ),
  };
}

export function within({ min, max }: { min: number; max: number }, value: number): number {
  return Math.max(min, Math.min(max, Number.isFinite(value) ? value : min));
}

/** The facts of a thing's numbers, in the order of the form. */
export const thingFacts: Record<
  'room' | 'screen' | 'camera' | 'lamp' | 'person' | 'day' | 'circuit',
  Record<string, Fact>
> = {
  room: roomFacts,
  screen: screenFacts,
  camera: cameraFacts,
  lamp: lampFacts,
  person: personFacts,
  day: eventFacts,
  circuit: circuitFacts,
};

/** What a thing is called. */
export function nameOf(plan: Plan, id: ThingId): string {
  if (id === 'camera') return 'Camera';
  const [kind, key] = id.split(':');
  const lamp = plan.lamps.find((l) => l.id === key);
  if (kind === 'aim') return `Aim of ${lamp?.name ?? ''}`;
  return lamp?.name ?? plan.people.find((p) => p.id === key)?.name ?? id;
}

import { entry, lampModels } from './library.ts';
import type { Guest, Plan } from './plan.ts';
import { lampFrom, personAt, screenFrom, startingPlan } from './startingPlan.ts';

/** Who came to the Saltmarsh Kite Meet, by crew. */
const roster: Guest[] = [
  { name: 'Heron crew, bottle-green jackets', colours: ['1f4a37', 'c9c4b8'], people: 8 },
  { name: 'Kelp crew, lime scarves', colours: ['2b2c33', 'b3cf3a'], people: 6 },
  { name: 'Cinder crew, dyed hair', colours: ['2a2a2e', '3f8f4a', '9a4a22'], people: 5 },
  { name: 'Slack Tide band', colours: ['26262b', '6c2f45'], people: 5 },
  { name: 'Families', colours: ['3d4a63', 'c8542f', 'e8e5de'], people: 30 },
  { name: 'Kite makers with sheer kites', colours: ['6c2f45', 'd8d4cc'], people: 10 },
];

/**
 * The two setups of the demo as plans: a cloth screen with two softboxes in the tent, a spring frame beside a window.
 */
export function demoPlans(): { tent: Plan; window: Plan } {
  const date = '2026-06-13';
  const place = { latitude: 52.95, longitude: 0.85, utcOffset: 1 };
  const start = startingPlan('Tent, cloth screen', date);
  const event = { ...start.event, date, deadlineDate: date, guests: 64, framesPerGuest: 3, roster };
  const tent: Plan = {
    ...start,
    room: { ...start.room, ...place, left: 2.6, right: 2.6, front: 6, behind: 0.4, height: 2.9 },
    screen: { ...start.screen, wrinkleDepth: 0.007 },
    event,
  };

  const north = entry(lampModels, 'Window, north light', 'lamp');
  const panel = entry(lampModels, 'Panel 40×40, LED', 'lamp');
  const person = personAt('p1', 'Guest', 0.05, 1.25);
  const window: Plan = {
    ...start,
    name: 'Awning, spring frame by the window',
    room: { ...start.room, ...place, left: 1.6, right: 3, front: 4.6, behind: 0.2, height: 2.5, facing: 80 },
    screen: screenFrom('green', 'Spring frame', 2, 2.1, 0.15),
    lamps: [
      lampFrom(
        north,
        'window',
        'key',
        { x: -1.55, y: 1.5, z: 1.9 },
        { x: 0.4, y: 1.3, z: 1 },
        { name: 'Window', circuit: '' },
      ),
      lampFrom(
        panel,
        'panel',
        'fill',
        { x: 1.5, y: 1.8, z: 2.6 },
        { x: 0, y: 1.5, z: person.z },
        { name: 'Panel', power: 0.25, supply: 'hired' },
      ),
    ],
    people: [person],
    camera: {
      ...start.camera,
      focal: 0.085,
      position: { x: 0, y: 1.33, z: 3.9 },
      aperture: 4,
      shutter: 1 / 100,
      iso: 800,
    },
    event: { ...event, guests: 24, minutesPerGuest: 5, firstGuest: '14:00', arrive: '13:00' },
  };
  return { tent, window };
}

import { lampRoles, outputUnits } from './facts.ts';
import { lampFactsByKind } from './library.ts';
import type { Plan } from './plan.ts';
import { isWithin, readingFacts } from './readings.ts';
import type { Report } from './report.ts';
import type { Schedule } from './schedule.ts';
import { clock } from './sun.ts';
import { lengthWords, type Units } from './units.ts';
import { subtract, type Vec } from './vector.ts';

/** A set sheet: what is taken along to build the set by. Sections of rows; a row of one cell is a sentence. */
export interface SheetSection {
  title: string;
  head?: string[];
  rows: string[][];
}

export function setSheet(plan: Plan, report: Report, schedule: Schedule, units: Units): SheetSection[] {
  const length = (metres: number): string => lengthWords(metres, units);
  const { screen, camera, room } = plan;
  const sideways = (x: number): string =>
    Math.abs(x) < 0.005 ? 'middle' : `${length(Math.abs(x))} ${x < 0 ? 'left' : 'right'}`;
  const beyond = report.readings.filter(({ id, value }) => !isWithin(id, value));
  return [
    {
      title: 'Screen',
      rows: [
        ['Material', `${screen.material}, ${screen.colour}`],
        [
          'Size',
          `${length(screen.width)} wide, ${length(screen.height)} high, lower edge ${length(screen.bottom)} above the floor${screen.sweep ? `, ${length(screen.sweep)} onto the floor` : ''}`,
        ],
        [
          'In the room',
          `${length(room.left)} to the left wall, ${length(room.right)} to the right, ${length(room.front)} to the front, ceiling ${length(room.height)}`,
        ],
      ],
    },
    {
      title: 'Lamps',
      head: [
        'lamp',
        'for',
        'sideways',
        'from screen',
        'height',
        'turn',
        'tilt',
        'output',
        'gel, diffusion, flags',
        'circuit',
      ],
      rows: plan.lamps
        .filter((lamp) => lampFactsByKind[lamp.kind].standing || lamp.kind === 'ring' || lamp.kind === 'window')
        .map((lamp) => {
          const { turn, tilt } = turnAndTilt(subtract(lamp.aim, lamp.position));
          const flags = [
            lamp.cutLeft < 90 && `left ${lamp.cutLeft}°`,
            lamp.cutRight < 90 && `right ${lamp.cutRight}°`,
            lamp.cutTop < 90 && `above ${lamp.cutTop}°`,
            lamp.cutBottom < 90 && `below ${lamp.cutBottom}°`,
          ].filter(Boolean);
          const extras = [
            lamp.gel !== 'none' && lamp.gel,
            lamp.diffusion !== 'none' && lamp.diffusion,
            flags.length && `flag ${flags.join(', ')}`,
          ]
            .filter(Boolean)
            .join('; ');
          return [
            lamp.name,
            lampRoles[lamp.role],
            sideways(lamp.position.x),
            length(lamp.position.z),
            length(lamp.position.y),
            turn,
            tilt,
            `${Math.round(lamp.output)} ${outputUnits[lamp.unit]}, ${Math.round(lamp.power * 100)} %`,
            extras || '–',
            lamp.circuit || '–',
          ];
        }),
    },
    {
      title: 'People and camera',
      rows: [
        ...plan.people.map((person) => [
          person.name,
          `${sideways(person.x)}, ${length(person.z)} from the screen${person.count > 1 ? `, ${person.count} side by side` : ''}; mark the floor`,
        ]),
        [
          'Camera',
          `${sideways(camera.position.x)}, ${length(camera.position.z)} from the screen, lens ${length(camera.position.y)} high, tilt ${camera.tilt}°, turn ${camera.pan}°; ${length(report.focus.distance)} to the eyes`,
        ],
        [
          'Settings',
          `${Math.round(camera.focal * 1000)} mm, f/${camera.aperture.toFixed(1)}, ${shutterWords(camera.shutter)}, ISO ${Math.round(camera.iso)}, ${camera.file === 'jpeg' ? 'JPEG of least compression' : '16 bit or raw'}; white balance from a grey card at the person; all locked`,
        ],
        ...plan.lamps
          .slice(0, 1)
          .map(() => [
            'Meter readings',
            report.person && report.evenness
              ? `key ${Math.round(report.person.keyLux)} lx at the face, screen ${Math.round(report.evenness.mean)} lx on average`
              : '–',
          ]),
      ],
    },
    {
      title: 'What to expect',
      rows: [
        [
          `${report.forecast.frames} frames, ${Math.round(report.forecast.minutes)} min of hand repair (${Math.round(report.forecast.low)}–${Math.round(report.forecast.high)} four times in five)`,
        ],
        ...beyond.map(({ id, value }) => [
          `${readingFacts[id].title}: ${value.toFixed(readingFacts[id].digits)} ${readingFacts[id].unit}. ${readingFacts[id].remedy}`,
        ]),
      ],
    },
    {
      title: 'Packing list',
      head: ['item', 'count', 'supply', 'kg', 'cost'],
      rows: [
        ...report.kit.items.map((item) => [
          item.name,
          `${item.count}`,
          item.supply,
          item.mass.toFixed(1),
          item.cost.toFixed(2),
        ]),
        ['In all', '', '', report.kit.mass.toFixed(1), report.kit.cost.toFixed(2)],
      ],
    },
    {
      title: 'The day',
      head: ['from', 'to', 'who', 'what'],
      rows: [
        ...schedule.stretches.map(({ from, to, who, words, unattended }) => [
          clock(from),
          clock(to),
          who,
          unattended ? `${words} (unattended)` : words,
        ]),
        ...schedule.misfits.map(({ words, remedy }) => ['', '', '', `${words} ${remedy}`]),
      ],
    },
    { title: 'Slots', head: ['time', 'guest'], rows: schedule.slots.map(({ minute, name }) => [clock(minute), name]) },
    { title: 'Cautions', rows: report.cautions.map((words) => [words]) },
  ];
}

/** How a lamp points: turned from straight at the screen, and tilted, in words. */
function turnAndTilt(d: Vec): { turn: string; tilt: string } {
  const turn = Math.round((Math.atan2(d.x, -d.z) * 180) / Math.PI);
  const tilt = Math.round((Math.atan2(d.y, Math.hypot(d.x, d.z)) * 180) / Math.PI);
  return {
    turn: turn === 0 ? 'straight' : `${Math.abs(turn)}° ${turn < 0 ? 'left' : 'right'}`,
    tilt: tilt === 0 ? 'level' : `${Math.abs(tilt)}° ${tilt < 0 ? 'down' : 'up'}`,
  };
}

export function shutterWords(seconds: number): string {
  return seconds >= 0.4 ? `${seconds.toFixed(1)} s` : `1/${Math.round(1 / seconds)} s`;
}

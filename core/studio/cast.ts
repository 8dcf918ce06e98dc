import type { Colour, Subject } from './figure.ts';
import type { ScreenSetup } from './litScreen.ts';
import type { PortraitPlan } from './portrait.ts';

/** Linear reflectance from an sRGB colour written as six hex digits. */
function colour(hex: string): Colour {
  const part = (n: number): number => {
    const v = parseInt(hex.slice(n, n + 2), 16) / 255;
    return v <= 0.04045 ? v / 12.92 : Math.pow((v + 0.055) / 1.055, 2.4);
  };
  return [part(0), part(2), part(4)];
}

const skins = { fair: colour('e3b59b'), light: colour('d9a486'), olive: colour('c08d68'), brown: colour('8f5f43'), dark: colour('63402e') };
const hairs = { fair: colour('c9a66b'), brown: colour('5a3d28'), black: colour('221b18'), red: colour('9a4a22'), grey: colour('9b9890'), green: colour('3f8f4a') };

/** The tent: a cloth screen, two softboxes, creases. The spring frame: window light from one side, close, more spill. */
export const demoScreens: Record<'tent' | 'window', { title: string; screen: ScreenSetup; bounce: number; readNoise: number; shotNoise: number }> = {
  tent: {
    title: 'Tent, cloth screen',
    screen: { colour: [0.075, 0.4, 0.105], left: 1, right: 0.92, lampDistance: 0.75, wrinkles: 0.12, shadow: 0.1 },
    bounce: 0.35,
    readNoise: 0.0025,
    shotNoise: 0.00005,
  },
  window: {
    title: 'Awning, spring frame by the window',
    screen: { colour: [0.07, 0.36, 0.085], left: 1.5, right: 0.62, lampDistance: 0.8, wrinkles: 0.03, shadow: 0.28 },
    bounce: 0.75,
    readNoise: 0.004,
    shotNoise: 0.00011,
  },
};

export interface DemoFrame {
  /** File name without its ending. */
  name: string;
  setup: keyof typeof demoScreens;
  subject: Subject;
}

const eyes = { brown: colour('5b3a21'), blue: colour('6d8799'), hazel: colour('77683f') };

/** The people of the Saltmarsh Kite Meet. */
export const demoFrames: DemoFrame[] = [
  person('SKM_0101', 'tent', 'Maren Holt', { skin: skins.fair, hair: ['fair', 'long', 0.34, 0.1, 30000], garment: ['knit', '3d4a63', 'd8d4cc'], eyes: eyes.blue }),
  person('SKM_0102', 'tent', 'Tobin Reyes, Heron crew', { skin: skins.olive, hair: ['black', 'short', 0.05, 0.1, 17000], garment: ['jacket', '1f4a37', 'c9c4b8'], build: 1.07, beard: true, eyes: eyes.brown }),
  person('SKM_0103', 'tent', 'Ada Okoro', { skin: skins.dark, hair: ['black', 'curly', 0.16, 0.15, 26000], garment: ['tee', 'c8542f', 'c8542f'], pose: 'hip', eyes: eyes.brown }),
  person('SKM_0104', 'tent', 'Lio Castellan with a sheer kite', { skin: skins.light, hair: ['brown', 'short', 0.06, 0.12, 17000], garment: ['tee', '6c2f45', '6c2f45'], pose: 'raised', prop: 'kite', eyes: eyes.hazel }),
  person('SKM_0105', 'tent', 'Wren Ashdown, Kelp crew', { skin: skins.fair, hair: ['red', 'long', 0.3, 0.16, 30000], garment: ['knit', '2b2c33', '2b2c33'], scarf: 'b3cf3a', eyes: eyes.hazel }),
  person('SKM_0201', 'window', 'Juno Marsh, Cinder crew', { skin: skins.light, hair: ['green', 'short', 0.085, 0.14, 21000], garment: ['jacket', '2a2a2e', 'e6e2da'], eyes: eyes.blue }),
  person('SKM_0202', 'window', 'Bram Veld', { skin: skins.light, hair: ['grey', 'short', 0.045, 0.1, 16000], garment: ['knit', 'd9d5cb', 'd9d5cb'], build: 1.08, beard: true, pose: 'hip', eyes: eyes.blue }),
  person('SKM_0203', 'window', 'Safi Noor', { skin: skins.brown, hair: ['black', 'curly', 0.11, 0.2, 26000], garment: ['jacket', '35506e', 'dcd2b8'], pose: 'hip', eyes: eyes.brown }),
  person('SKM_0204', 'window', 'Elin Sorrel', { skin: skins.fair, hair: ['fair', 'curly', 0.17, 0.22, 26000], garment: ['tee', 'e8e5de', 'e8e5de'], eyes: eyes.blue }),
  person('SKM_0205', 'window', 'Pim Harrow, Slack Tide band', { skin: skins.olive, hair: ['brown', 'long', 0.26, 0.12, 28000], garment: ['tee', '26262b', '26262b'], beard: true, build: 1.04, eyes: eyes.brown }),
];

interface Looks {
  skin: Colour;
  hair: [keyof typeof hairs, Subject['hair']['style'], number, number, number];
  garment: [Subject['garment']['kind'], string, string];
  scarf?: string;
  beard?: boolean;
  pose?: Subject['pose'];
  prop?: 'kite';
  build?: number;
  eyes: Colour;
}

function person(name: string, setup: DemoFrame['setup'], who: string, looks: Looks): DemoFrame {
  const [hair, style, length, flyaway, strands] = looks.hair;
  const [kind, cloth, shirt] = looks.garment;
  return {
    name,
    setup,
    subject: {
      name: who,
      seed: Number(name.slice(-4)),
      skin: looks.skin,
      hair: { colour: hairs[hair], style, length, flyaway, strands },
      beard: looks.beard ?? false,
      garment: { colour: colour(cloth), kind, shirt: colour(shirt), scarf: looks.scarf ? colour(looks.scarf) : undefined },
      pose: looks.pose ?? 'down',
      prop: looks.prop,
      eyes: looks.eyes,
      build: looks.build ?? 1,
    },
  };
}

/** The plan of one demo frame at a given size. */
export function demoPlan(frame: DemoFrame, width: number, height: number): PortraitPlan {
  const { screen, bounce, readNoise, shotNoise } = demoScreens[frame.setup];
  return { subject: frame.subject, screen, bounce, readNoise, shotNoise, width, height, blur: 0.7 };
}

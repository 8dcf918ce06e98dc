import { ball, capsule, ellipsoid, hollow, Part, type Solid, type Vector } from './solids.ts';
import { smoothstep } from '../image/smoothstep.ts';
import { seededRandom, type Random } from '../random.ts';

export type Colour = readonly [number, number, number];

/** How a demo person looks. Colours are linear reflectances 0–1. */
export interface Subject {
  name: string;
  seed: number;
  skin: Colour;
  /** Hair strands: reflectance, length in m, and how it falls. */
  hair: {
    colour: Colour;
    style: 'short' | 'long' | 'curly' | 'frizzy' | 'none';
    length: number;
    flyaway: number;
    strands: number;
    /** Sideways, 0 still – 1 blown about. */ wind: number;
  };
  beard: boolean;
  garment: { colour: Colour; kind: 'jacket' | 'knit' | 'tee'; shirt: Colour; scarf?: Colour; legs: Colour };
  headwear?: { kind: 'cap' | 'brim' | 'beanie' | 'scarf'; colour: Colour };
  glasses?: boolean;
  jewellery?: boolean;
  /** 0 young – 1 old. */
  age: number;
  /**
   * Where the arms are: both down, one or both hands on the hips (gaps), one raised to hold something, one waving,
   * both holding something in front.
   */
  pose: 'down' | 'hip' | 'hips' | 'raised' | 'wave' | 'holding';
  prop?: 'kite' | 'lattice' | 'veil';
  /** A collar of fur, of this colour. */
  fur?: Colour;
  /** A plume on the headwear, of this colour. */
  plume?: Colour;
  /** Turn of head and body, and the moment's small movements. */
  moment: number;
  eyes: Colour;
  /** Breadth of shoulders and jaw against the average, about 0.9–1.1. */
  build: number;
}

export interface Figure {
  solids: Solid[];
  /** Where the raised hand is, for a prop. */
  hand: Vector;
  /** The head's turn about the vertical axis, radians. */
  turn: number;
}

/** Sets up the solids of a half-length figure; the centre of the head is the origin. */
export function buildFigure(subject: Subject, random: Random): Figure {
  const now = seededRandom(subject.seed * 31 + subject.moment);
  const turn = (now() - 0.5) * (subject.moment ? 0.6 : 0.35);
  const tilt = (now() - 0.5) * 0.12;
  const solids: Solid[] = head(subject, random).map((solid) => turned(solid, turn, tilt));
  const b = subject.build;
  solids.push(
    ...[...headwear(subject), ...(subject.glasses ? glasses() : []), ...(subject.jewellery ? earrings() : [])].map(
      (solid) => turned(solid, turn, tilt),
    ),
  );
  if (subject.jewellery) solids.push(...necklace());
  solids.push(capsule(Part.skin, [0, -0.08, -0.022], [0, -0.2, -0.035], 0.047 * b, 0.056 * b, 0.03));
  const bothArms = subject.pose === 'hips' ? 'hip' : subject.pose === 'holding' ? 'holding' : 'down';
  const left = armTo(subject, -1, bothArms, now);
  const right = armTo(subject, 1, subject.pose === 'hips' ? 'hip' : subject.pose, now);
  solids.push(
    ...[
      ...torso(subject),
      ...legs(subject),
      ...(subject.prop === 'lattice' ? lattice() : []),
      ...left.solids,
      ...right.solids,
    ].map((solid) => moved(solid, raise)),
  );
  return { solids, hand: raise(right.hand), turn };
}

/** The torso is laid out below a long neck; it stands this much higher. */
function raise(p: Vector): Vector {
  return [p[0], p[1] + 0.03, p[2]];
}

function head(subject: Subject, random: Random): Solid[] {
  const jaw = subject.build * (0.97 + 0.06 * random());
  const nose = 0.9 + 0.25 * random();
  const smile = 0.001 + 0.003 * random();
  const skin = Part.skin;
  const both = (make: (side: 1 | -1) => Solid): Solid[] => [make(-1), make(1)];
  return [
    ellipsoid(skin, [0, 0.045, -0.012], [0.074, 0.086, 0.094], 0.02),
    ellipsoid(skin, [0, -0.03, 0.018], [0.0595 * jaw, 0.086, 0.07], 0.03),
    ball(skin, [0, -0.1, 0.052], 0.021 * jaw, 0.03),
    ...both((s) => capsule(skin, [s * 0.047 * jaw, -0.05, 0.0], [s * 0.016, -0.1, 0.045], 0.019, 0.015, 0.03)),
    ...both((s) => ball(skin, [s * 0.037, -0.018, 0.05], 0.0265, 0.035)),
    ...both((s) => capsule(skin, [s * 0.012, 0.031, 0.079], [s * 0.046, 0.031, 0.061], 0.0095, 0.009, 0.02)),
    ...both((s) => hollow([s * 0.0315, 0.01, 0.0895], 0.0155, 0.016)),
    capsule(skin, [0, 0.018, 0.081], [0, -0.026, 0.1 * (0.97 + 0.03 * nose)], 0.0075, 0.0095 * nose, 0.016),
    ball(skin, [0, -0.031, 0.099], 0.0105 * nose, 0.012),
    ...both((s) => ball(skin, [s * 0.0125 * nose, -0.035, 0.088], 0.0075, 0.01)),
    capsule(skin, [-0.014, -0.058, 0.076], [0.014, -0.058, 0.076], 0.009, 0.009, 0.018),
    ...both((s) => ellipsoid(skin, [s * 0.0315, 0.0195, 0.0672], [0.0175, 0.0105, 0.0135], 0.006)),
    ...both((s) => ellipsoid(skin, [s * 0.0315, -0.0035, 0.0665], [0.0165, 0.0082, 0.012], 0.008)),
    ...both((s) => ellipsoid(skin, [s * 0.076, 0.002, -0.016], [0.01, 0.03, 0.019], 0.008)),
    ...both((s) => ball(Part.eye, [s * 0.0315, 0.0085, 0.065], 0.0132, 0)),
    ...both((s) =>
      capsule(Part.lips, [0, -0.0638, 0.0858], [s * 0.022, -0.0668 + smile, 0.0836], 0.0036, 0.0026, 0.003),
    ),
    ...both((s) =>
      capsule(Part.lips, [0, -0.0715, 0.0842], [s * 0.019, -0.0688 + smile, 0.083], 0.0047, 0.0026, 0.004),
    ),
  ];
}

function torso(subject: Subject): Solid[] {
  const b = subject.build;
  const part = Part.garment;
  const solids: Solid[] = [
    ellipsoid(part, [0, -0.265, -0.045], [0.115 * b, 0.09, 0.082], 0.05),
    capsule(part, [-0.14 * b, -0.262, -0.045], [0.14 * b, -0.262, -0.045], 0.055, 0.055, 0.05),
    ellipsoid(part, [0, -0.42, -0.03], [0.163 * b, 0.23, 0.112], 0.05),
    ellipsoid(part, [0, -0.72, -0.03], [0.142 * b, 0.34, 0.1], 0.06),
    ellipsoid(part, [0, -0.98, -0.03], [0.165 * b, 0.25, 0.115], 0.06),
  ];
  if (subject.garment.kind === 'jacket') {
    // A stand-up collar in two halves, the shirt in the gap between them.
    solids.push(
      ellipsoid(Part.shirt, [0, -0.212, -0.012], [0.06, 0.034, 0.062], 0.01),
      capsule(Part.trim, [-0.066, -0.182, -0.05], [-0.034, -0.226, 0.036], 0.019, 0.013, 0.012),
      capsule(Part.trim, [0.066, -0.182, -0.05], [0.036, -0.226, 0.036], 0.019, 0.013, 0.012),
      capsule(Part.trim, [-0.034, -0.226, 0.036], [-0.016, -0.262, 0.056], 0.013, 0.008, 0.012),
      capsule(Part.trim, [0.036, -0.226, 0.036], [0.02, -0.262, 0.056], 0.013, 0.008, 0.012),
      capsule(Part.trim, [-0.066, -0.182, -0.05], [0.066, -0.182, -0.05], 0.02, 0.02, 0.012),
    );
  } else {
    solids.push(ellipsoid(Part.shirt, [0, -0.2, -0.028], [0.072, 0.022, 0.066], 0.01));
  }
  if (subject.garment.scarf) {
    const ring = 12;
    for (let n = 0; n < ring; n++) {
      const t0 = (n / ring) * 2 * Math.PI;
      const t1 = ((n + 1) / ring) * 2 * Math.PI;
      const at = (t: number): Vector => [
        0.078 * Math.sin(t),
        -0.178 - 0.028 * Math.cos(t),
        -0.025 + 0.08 * Math.cos(t),
      ];
      solids.push(capsule(Part.trim, at(t0), at(t1), 0.026, 0.026, 0.012));
    }
    solids.push(
      capsule(Part.trim, [0.03, -0.22, 0.06], [0.05, -0.34, 0.1], 0.026, 0.03, 0.012),
      capsule(Part.trim, [0.05, -0.34, 0.1], [0.055, -0.52, 0.095], 0.028, 0.034, 0.02),
    );
  }
  return solids;
}

/** One arm with its hand. `side` −1 is left in the picture. */
function armTo(
  subject: Subject,
  side: 1 | -1,
  pose: Subject['pose'],
  random: Random,
): { solids: Solid[]; hand: Vector } {
  const b = subject.build;
  const shoulder: Vector = [side * 0.158 * b, -0.272, -0.045];
  let elbow: Vector;
  let wrist: Vector;
  if (pose === 'wave') {
    elbow = [side * 0.33, -0.42, -0.02];
    wrist = [side * (0.36 + 0.03 * random()), -0.17, 0.05];
  } else if (pose === 'holding') {
    elbow = [side * 0.23, -0.5, 0.0];
    wrist = [side * 0.13, -0.46, 0.2];
  } else if (pose === 'hip') {
    elbow = [side * (0.3 + 0.012 * random()), -0.5, -0.07];
    wrist = [side * 0.185, -0.66, 0.05];
  } else if (pose === 'raised') {
    elbow = [side * 0.255, -0.45, 0.05];
    wrist = [side * 0.255, -0.225, 0.12];
  } else {
    elbow = [side * (0.19 + 0.015 * random()), -0.5, -0.06];
    wrist = [side * 0.195, -0.75, 0.02];
  }
  const bare = subject.garment.kind === 'tee';
  const solids: Solid[] = [];
  const middle = mix(shoulder, elbow, 0.55);
  if (bare) {
    solids.push(
      capsule(Part.garment, shoulder, middle, 0.056, 0.053, 0.028),
      capsule(Part.skin, middle, elbow, 0.045, 0.039, 0.01),
      capsule(Part.skin, elbow, wrist, 0.039, 0.026, 0.008),
    );
  } else {
    solids.push(
      capsule(Part.garment, shoulder, elbow, 0.055, 0.045, 0.028),
      capsule(Part.garment, elbow, mix(elbow, wrist, 0.92), 0.045, 0.036, 0.008),
      capsule(Part.trim, mix(elbow, wrist, 0.88), mix(elbow, wrist, 0.94), 0.038, 0.037, 0.005),
    );
  }
  const along = unit([wrist[0] - elbow[0], wrist[1] - elbow[1], wrist[2] - elbow[2]]);
  const palm: Vector = [wrist[0] + along[0] * 0.045, wrist[1] + along[1] * 0.045, wrist[2] + along[2] * 0.045];
  solids.push(capsule(Part.skin, wrist, palm, 0.026, 0.032, 0.02));
  for (let finger = 0; finger < 4; finger++) {
    const spread = (finger - 1.5) * 0.0165;
    const base: Vector = [palm[0] + spread * -along[1], palm[1] + spread * along[0], palm[2] + 0.012];
    const curl = pose === 'raised' || pose === 'holding' ? 0.35 : 0.85;
    const length = 0.048 - 0.005 * Math.abs(finger - 1.3);
    const knuckle: Vector = [base[0] + along[0] * length, base[1] + along[1] * length, base[2] + 0.012];
    const tip: Vector = [
      knuckle[0] + along[0] * length * 0.8 * curl,
      knuckle[1] + along[1] * length * 0.8 * curl,
      knuckle[2] + (1 - curl) * 0.02,
    ];
    solids.push(
      capsule(Part.skin, base, knuckle, 0.0115, 0.0095, 0.006),
      capsule(Part.skin, knuckle, tip, 0.0095, 0.0075, 0.004),
    );
  }
  const thumb: Vector = [palm[0] - side * 0.03, palm[1] + along[1] * 0.02, palm[2] + 0.02];
  solids.push(capsule(Part.skin, wrist, thumb, 0.014, 0.01, 0.012));
  return { solids, hand: palm };
}

function legs(subject: Subject): Solid[] {
  const b = subject.build;
  return [-1, 1].flatMap((side) => [
    capsule(Part.legs, [side * 0.085 * b, -0.98, -0.03], [side * 0.1 * b, -1.25, -0.02], 0.088 * b, 0.062 * b, 0.05),
    capsule(Part.legs, [side * 0.1 * b, -1.25, -0.02], [side * 0.105 * b, -1.56, -0.05], 0.06 * b, 0.05 * b, 0.03),
    capsule(Part.rim, [side * 0.105 * b, -1.605, -0.06], [side * 0.125 * b, -1.615, 0.09], 0.045, 0.036, 0.02),
  ]);
}

/** A crate of laths held before the body: screen or cloth shows between them. */
function lattice(): Solid[] {
  const solids: Solid[] = [];
  for (let n = 0; n <= 4; n++) {
    const t = -0.2 + n * 0.1;
    solids.push(
      capsule(Part.wood, [-0.26, -0.5 + t, 0.235], [0.26, -0.5 + t, 0.235], 0.008, 0.008, 0.002),
      capsule(Part.wood, [t * 1.3, -0.72, 0.245], [t * 1.3, -0.28, 0.245], 0.008, 0.008, 0.002),
    );
  }
  return solids;
}

function headwear({ headwear: worn }: Subject): Solid[] {
  if (!worn) return [];
  const part = Part.hat;
  if (worn.kind === 'scarf') {
    return [
      ellipsoid(part, [0, 0.05, -0.024], [0.084, 0.093, 0.1], 0.02),
      ellipsoid(part, [0, -0.06, -0.05], [0.086, 0.12, 0.07], 0.03),
      capsule(part, [-0.072, 0.0, 0.005], [-0.03, -0.125, 0.04], 0.02, 0.024, 0.02),
      capsule(part, [0.072, 0.0, 0.005], [0.03, -0.125, 0.04], 0.02, 0.024, 0.02),
      ellipsoid(part, [0, -0.155, 0.005], [0.085, 0.05, 0.075], 0.03),
      capsule(part, [0.02, -0.18, 0.06], [0.05, -0.36, 0.1], 0.035, 0.05, 0.03),
    ];
  }
  const crown = ellipsoid(part, [0, 0.078, -0.015], [0.0845, worn.kind === 'beanie' ? 0.082 : 0.07, 0.104], 0.01);
  if (worn.kind === 'beanie') return [crown, ellipsoid(part, [0, 0.062, -0.013], [0.088, 0.024, 0.107], 0.01)];
  if (worn.kind === 'cap') return [crown, ellipsoid(part, [0, 0.063, 0.108], [0.066, 0.009, 0.062], 0.012)];
  return [crown, ellipsoid(part, [0, 0.068, -0.01], [0.158, 0.011, 0.172], 0.02)];
}

function glasses(): Solid[] {
  const solids: Solid[] = [capsule(Part.rim, [-0.011, 0.013, 0.094], [0.011, 0.013, 0.094], 0.0016, 0.0016, 0)];
  for (const side of [-1, 1]) {
    const steps = 12;
    const at = (n: number): Vector => [
      side * 0.0335 + 0.0215 * Math.cos((2 * Math.PI * n) / steps),
      0.007 + 0.0185 * Math.sin((2 * Math.PI * n) / steps),
      0.0905,
    ];
    for (let n = 0; n < steps; n++) solids.push(capsule(Part.rim, at(n), at(n + 1), 0.0017, 0.0017, 0));
    solids.push(capsule(Part.rim, [side * 0.055, 0.012, 0.09], [side * 0.079, 0.014, -0.005], 0.0017, 0.0017, 0));
  }
  return solids;
}

function earrings(): Solid[] {
  return [-1, 1].flatMap((side) => [
    ball(Part.metal, [side * 0.082, -0.036, -0.008], 0.0035, 0),
    ball(Part.metal, [side * 0.083, -0.05, -0.006], 0.006, 0),
  ]);
}

function necklace(): Solid[] {
  const beads = 15;
  return Array.from({ length: beads }, (_, n) => {
    const t = ((n / (beads - 1)) * 2 - 1) * 1.25;
    return ball(
      Part.metal,
      [0.078 * Math.sin(t), -0.165 - 0.045 * Math.cos(t), -0.015 + 0.075 * Math.cos(t)],
      0.0055,
      0,
    );
  });
}

function turned(solid: Solid, turn: number, tilt: number): Solid {
  return moved(solid, (p) => {
    const x = p[0] * Math.cos(turn) + p[2] * Math.sin(turn);
    const z = -p[0] * Math.sin(turn) + p[2] * Math.cos(turn);
    return [x * Math.cos(tilt) - p[1] * Math.sin(tilt), x * Math.sin(tilt) + p[1] * Math.cos(tilt), z];
  });
}

function moved(solid: Solid, move: (p: Vector) => Vector): Solid {
  if (solid.kind === 'capsule') return { ...solid, a: move(solid.a), b: move(solid.b) };
  return { ...solid, centre: move(solid.centre) };
}

function mix(a: Vector, b: Vector, t: number): Vector {
  return [a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1]), a[2] + t * (b[2] - a[2])];
}

function unit(v: Vector): Vector {
  const n = Math.hypot(v[0], v[1], v[2]) || 1;
  return [v[0] / n, v[1] / n, v[2] / n];
}

/**
 * Height of the hairline (head's own y, metres) in the direction of a point on the head: high over the forehead, down
 * in front of the ears, low in the nape. `sideways` and `forward` are the unit direction's x and z.
 */
export function hairline(sideways: number, forward: number): number {
  if (forward > 0.3) return 0.088 - 0.03 * Math.max(0, Math.abs(sideways) - 0.4);
  if (forward > -0.05) return 0.022 + 0.066 * smoothstep((forward + 0.05) / 0.35);
  return -0.045 + 0.067 * smoothstep((forward + 0.5) / 0.45);
}

import { lampLight, type LampLight } from './lampLight.ts';
import type { Lamp, Plan } from './plan.ts';
import { add, distance, frameOf, scale, subtract, unit, vec, type Vec } from './vector.ts';

/** A lamp ready for computing: its surface as sample points, each with a share of the intensity. */
export interface Source {
  lamp: Lamp;
  light: LampLight;
  /** `room`: what walls, floor and ceiling give back, the same from all sides. */
  kind: 'area' | 'sun' | 'sky' | 'room';
  centre: Vec;
  /** Direction of the beam. */
  axis: Vec;
  right: Vec;
  up: Vec;
  /** x, y, z of each sample. */
  samples: Float64Array;
  /** Makes illuminance comparable: 1 for continuous light, 1 / shutter for a flash, so that × shutter is exposure. */
  weight: number;
}

/** Upright bodies that stand in the light: x, z, radius and top of each. */
export type Blockers = readonly { x: number; z: number; radius: number; top: number }[];

/**
 * @param fineness samples across the longer side of a lamp's surface; 5 resolves a softbox a metre away to about 1 %.
 */
export function sourcesOf(plan: Plan, fineness = 4): Source[] {
  const lamps = plan.lamps.map((lamp) => sourceOf(lamp, plan, fineness));
  const room = roomLight(plan, lamps);
  return room ? [...lamps, room] : lamps;
}

/** Light between the walls of a room, as in an integrating sphere: E = Φ/A · ρ/(1 − ρ); none outdoors. */
function roomLight(plan: Plan, lamps: readonly Source[]): Source | undefined {
  const { room } = plan;
  if (room.outdoors || room.walls <= 0) return undefined;
  const width = room.left + room.right;
  const depth = room.behind + room.front;
  const area = 2 * (width * depth + width * room.height + depth * room.height);
  const rgb: [number, number, number] = [0, 0, 0];
  let flux = 0;
  for (const { light, weight, kind } of lamps) {
    if (kind !== 'area') continue;
    flux += light.flux * weight;
    for (let c = 0; c < 3; c++) rgb[c] += light.flux * weight * light.rgb[c];
  }
  if (flux <= 0) return undefined;
  const level = (flux / area) * (room.walls / (1 - room.walls));
  const lamp: Lamp = {
    ...plan.lamps[0],
    id: 'room',
    name: 'Walls and ceiling',
    role: 'fill',
    kind: 'overcast',
    watts: 0,
    circuit: '',
    unit: 'lux',
  };
  const light: LampLight = {
    flux: level,
    peak: 0,
    exponent: 1,
    rgb: [rgb[0] / flux, rgb[1] / flux, rgb[2] / flux],
    temperature: 0,
    tint: 0,
    losses: { modifier: 0, gel: 0, diffusion: 0, dimmer: 0 },
  };
  return {
    lamp,
    light,
    kind: 'room',
    centre: vec(0, 0, 0),
    axis: vec(0, 0, 1),
    right: vec(1, 0, 0),
    up: vec(0, 1, 0),
    samples: new Float64Array(0),
    weight: 1,
  };
}

function sourceOf(lamp: Lamp, plan: Plan, fineness: number): Source {
  const light = lampLight(lamp);
  const ring = lamp.kind === 'ring';
  const centre = ring ? plan.camera.position : lamp.position;
  const axis = ring ? cameraAxis(plan.camera) : unit(subtract(lamp.aim, lamp.position));
  const { right, up } = frameOf(axis);
  const weight = lamp.unit === 'joule' ? 1 / plan.camera.shutter : 1;
  const kind = lamp.kind === 'sun' ? 'sun' : lamp.kind === 'overcast' ? 'sky' : 'area';
  const samples =
    kind === 'area'
      ? ring
        ? annulus(centre, right, up, lamp.width)
        : rectangle(centre, right, up, lamp.width, lamp.height, fineness)
      : new Float64Array(0);
  return { lamp, light, kind, centre, axis, right, up, samples, weight };
}

export function cameraAxis({ tilt, pan }: { tilt: number; pan: number }): Vec {
  const t = (tilt * Math.PI) / 180;
  const p = (pan * Math.PI) / 180;
  return vec(Math.sin(p) * Math.cos(t), Math.sin(t), -Math.cos(p) * Math.cos(t));
}

function rectangle(centre: Vec, right: Vec, up: Vec, width: number, height: number, fineness: number): Float64Array {
  const longer = Math.max(width, height);
  const across = Math.max(1, Math.round((fineness * width) / longer));
  const down = Math.max(1, Math.round((fineness * height) / longer));
  const samples = new Float64Array(across * down * 3);
  let o = 0;
  for (let j = 0; j < down; j++) {
    for (let i = 0; i < across; i++) {
      const p = add(
        add(centre, scale(right, ((i + 0.5) / across - 0.5) * width)),
        scale(up, ((j + 0.5) / down - 0.5) * height),
      );
      samples[o++] = p.x;
      samples[o++] = p.y;
      samples[o++] = p.z;
    }
  }
  return samples;
}

function annulus(centre: Vec, right: Vec, up: Vec, diameter: number): Float64Array {
  const count = 8;
  const samples = new Float64Array(count * 3);
  for (let n = 0; n < count; n++) {
    const t = (2 * Math.PI * n) / count;
    const p = add(add(centre, scale(right, (Math.cos(t) * diameter) / 2)), scale(up, (Math.sin(t) * diameter) / 2));
    samples.set([p.x, p.y, p.z], n * 3);
  }
  return samples;
}

/** Share of a hemisphere's light that the ground sends back under an open sky. */
const GROUND = 0.2;
const FLAG_SOFTNESS = 4;

/**
 * Illuminance in lx (for a flash: lx·s divided by the shutter time) at a point of a surface.
 *
 * Area sources: E = Σ Iᵢ cosⁿθ · cosφ / r² over the samples, with θ from the lamp's axis, φ from the surface's normal.
 * Sun: parallel. Overcast sky: uniform dome, (1 + n·up) / 2 of the level on open ground, plus the ground's return.
 * @param normal unit normal of the surface.
 * @param blockers bodies that cast shadow; left out, none do.
 */
export function illuminance(source: Source, point: Vec, normal: Vec, blockers: Blockers = []): number {
  const { light, samples, axis, weight } = source;
  if (source.kind === 'room') return light.flux;
  if (source.kind === 'sky') return light.flux * weight * ((1 + normal.y) / 2 + (GROUND * (1 - normal.y)) / 2);
  if (source.kind === 'sun') {
    const facing = -(axis.x * normal.x + axis.y * normal.y + axis.z * normal.z);
    if (facing <= 0 || shaded(point.x - axis.x * 50, point.y - axis.y * 50, point.z - axis.z * 50, point, blockers))
      return 0;
    return light.flux * weight * facing;
  }
  const count = samples.length / 3;
  const { exponent } = light;
  let sum = 0;
  for (let n = 0; n < samples.length; n += 3) {
    const dx = point.x - samples[n];
    const dy = point.y - samples[n + 1];
    const dz = point.z - samples[n + 2];
    const facing = -(dx * normal.x + dy * normal.y + dz * normal.z);
    if (facing <= 0) continue;
    const along = dx * axis.x + dy * axis.y + dz * axis.z;
    if (along <= 0) continue;
    if (blockers.length && shaded(samples[n], samples[n + 1], samples[n + 2], point, blockers)) continue;
    const r2 = Math.max(1e-4, dx * dx + dy * dy + dz * dz);
    const r = Math.sqrt(r2);
    sum += (Math.pow(along / r, exponent) * facing) / (r2 * r);
  }
  return sum ? (light.peak * weight * sum * throughFlags(source, point)) / count : 0;
}

function throughFlags(source: Source, point: Vec): number {
  const { lamp, axis, right, up } = source;
  if (lamp.cutLeft >= 90 && lamp.cutRight >= 90 && lamp.cutTop >= 90 && lamp.cutBottom >= 90) return 1;
  const d = subtract(point, source.centre);
  const along = d.x * axis.x + d.y * axis.y + d.z * axis.z;
  const sideways = (Math.atan2(d.x * right.x + d.y * right.y + d.z * right.z, along) * 180) / Math.PI;
  const upwards = (Math.atan2(d.x * up.x + d.y * up.y + d.z * up.z, along) * 180) / Math.PI;
  return (
    edge(lamp.cutRight, sideways) *
    edge(lamp.cutLeft, -sideways) *
    edge(lamp.cutTop, upwards) *
    edge(lamp.cutBottom, -upwards)
  );
}

/** 1 inside the flag's edge, 0 beyond; a source that is not a point makes the edge soft. */
function edge(cut: number, angle: number): number {
  if (cut >= 90) return 1;
  const t = Math.max(0, Math.min(1, (cut - angle) / (2 * FLAG_SOFTNESS) + 0.5));
  return t * t * (3 - 2 * t);
}

/** Whether a body stands between sample and point: nearest approach in plan view, and height there. */
function shaded(sx: number, sy: number, sz: number, point: Vec, blockers: Blockers): boolean {
  const dx = point.x - sx;
  const dz = point.z - sz;
  const l2 = dx * dx + dz * dz || 1e-9;
  for (const { x, z, radius, top } of blockers) {
    const t = ((x - sx) * dx + (z - sz) * dz) / l2;
    if (t <= 0.001 || t >= 0.999) continue;
    const px = sx + t * dx - x;
    const pz = sz + t * dz - z;
    const y = sy + t * (point.y - sy);
    // Head and neck are slimmer than the body.
    const here = y > top - 0.3 ? radius * 0.5 : radius;
    if (y < top && px * px + pz * pz < here * here) return true;
  }
  return false;
}

/** Half the breadth of a person's shoulders, m. */
const BODY_RADIUS = 0.21;

export function blockersOf(plan: Plan): Blockers {
  return plan.people.flatMap(({ x, z, height, count }) =>
    Array.from({ length: count }, (_, n) => ({
      x: x + (n - (count - 1) / 2) * 0.5,
      z,
      radius: BODY_RADIUS,
      top: height,
    })),
  );
}

/** Apparent size of a lamp's surface seen from a point, as an angle in radians. */
export function angularSize(source: Source, point: Vec): number {
  if (source.kind === 'sun') return 0.0093;
  if (source.kind === 'sky' || source.kind === 'room') return Math.PI;
  return (
    2 *
    Math.atan(Math.sqrt(source.lamp.width * source.lamp.height) / 2 / Math.max(0.01, distance(source.centre, point)))
  );
}

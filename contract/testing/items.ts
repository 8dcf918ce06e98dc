import { startingPlan } from '../../core/plan/index.ts';
import type {
  Background,
  Batch,
  Check,
  Delivery,
  DeliverySettings,
  Findings,
  Frame,
  Job,
  PlanRow,
  Setup,
  Shoot,
  Subject,
} from '../index.ts';
import { noGuidance } from '../../core/cut/guidance.ts';
import { EXTRACTION } from '../../core/cut/order.ts';
import type { LedgerEntry, Quality } from '../../core/cut/quality.ts';
import { defaultRecipe } from '../../core/cut/recipe.ts';
import { asTaken } from '../../core/gather/develop.ts';
import { noCamera } from '../../core/gather/camera.ts';
import { noSubject } from '../../core/gather/subject.ts';
import { everybody, noMetadata, noPapers } from '../../core/handOver/index.ts';
import { noSceneFacts } from '../../core/place/scene.ts';

/** Items as the server would tell them, for tests; each takes what a test cares about. */

export const someShoot = (part: Partial<Shoot> = {}): Shoot => ({
  id: 1,
  name: 'Pier',
  date: '2026-06-13',
  place: '',
  sample: false,
  strip: [],
  plans: 0,
  rounds: 0,
  signed: 0,
  frames: 0,
  cut: 0,
  placed: 0,
  handedOver: 0,
  minutes: 0,
  pending: 0,
  archive: null,
  removedAt: null,
  ...part,
});

export const someSetup = (part: Partial<Setup> = {}): Setup => ({
  id: 1,
  shootId: 1,
  name: 'Tent',
  recipe: defaultRecipe,
  masks: [],
  develop: asTaken,
  watch: null,
  follow: false,
  watched: { taken: 0, refused: [] },
  revision: 1,
  ...part,
});

export const someFrame = (id: number, part: Partial<Frame> = {}): Frame => ({
  id,
  setupId: 1,
  name: `F${id}.jpg`,
  width: 40,
  height: 60,
  depth: 8,
  bytes: 1,
  takenAt: null,
  clock: 0,
  camera: noCamera,
  raw: false,
  facts: null,
  plate: false,
  pick: null,
  subject: '',
  guidance: noGuidance,
  review: null,
  cut: null,
  job: null,
  placement: null,
  crops: {},
  picture: `p${id}`,
  revision: 1,
  ...part,
});

export const someSubject = (id: number, part: Partial<Subject> = {}): Subject => ({
  id,
  shootId: 1,
  ...noSubject,
  name: `Guest ${id}`,
  revision: 1,
  ...part,
});

export const someQuality = (part: Partial<Quality> = {}): Quality => ({
  screen: 'green',
  screenShare: 0.5,
  fringeShare: 0.04,
  unexplained: 0.01,
  noisePercent: 1.2,
  greenKept: 0,
  greenRemoved: 0,
  ledger: [],
  doubts: [],
  extent: { x: 0.2, y: 0.1, width: 0.6, height: 0.9 },
  minutes: 0,
  ...part,
});

/** A cut made with what the fingerprint names, by a way of extracting. */
export const someCut = (
  quality: Partial<Quality> = {},
  fingerprint = 'now',
  extraction = EXTRACTION,
): Pick<Frame, 'cut'> => ({
  cut: { version: 'v', quality: someQuality(quality), fingerprint, extraction, faces: [], hands: [] },
});

export const someEntry = (part: Partial<LedgerEntry> = {}): LedgerEntry => ({
  place: { x: 0.4, y: 0.5, width: 0.1, height: 0.1 },
  centre: { x: 0.45, y: 0.55 },
  chroma: [0.2, 0.2],
  share: 0.01,
  likelihood: 0.9,
  verdict: 'keep',
  doubtful: false,
  byHand: false,
  evidence: { apart: 0.1, mostScreen: 0.2, rough: 0.01, atBorder: false },
  ...part,
});

export const someBatch = (part: Partial<Batch> = {}): Batch => ({
  id: 1,
  shootId: 1,
  kind: 'cut',
  total: 10,
  done: 0,
  failed: 0,
  cancelled: 0,
  open: 10,
  secondsLeft: null,
  revision: 1,
  ...part,
});

/** Cutouts, and whole finished pictures, in folders of their own. */
export const someDeliverySettings = (part: Partial<DeliverySettings> = {}): DeliverySettings => ({
  presets: [
    { name: 'Cutouts', kind: 'cutout', format: 'png', trimmed: false },
    { name: 'Finished', kind: 'screen', longest: 12_000, most: 0, format: 'jpeg', quality: 92 },
  ],
  names: '{preset}/{frame}',
  chosen: everybody,
  metadata: noMetadata,
  papers: noPapers,
  ...part,
});

export const someDelivery = (part: Partial<Delivery> = {}): Delivery => ({
  id: 1,
  shootId: 1,
  settings: someDeliverySettings(),
  createdAt: '2026-06-14T09:30:00.000Z',
  batch: someBatch({ kind: 'deliver', done: 10, open: 0 }),
  files: 20,
  bytes: 3_400_000,
  problems: [],
  notPlaced: [],
  differences: null,
  keptBack: [],
  revision: 1,
  ...part,
});

export const someJob = (part: Partial<Job> = {}): Job => ({
  id: 8,
  kind: 'cut',
  shootId: 1,
  about: {},
  state: 'queued',
  progress: null,
  secondsLeft: null,
  problem: null,
  made: null,
  revision: 1,
  ...part,
});

export const somePlanRow = (part: Partial<PlanRow> = {}): PlanRow => ({
  id: 1,
  shootId: 1,
  setupId: null,
  plan: startingPlan('Hall', '2026-06-13'),
  changedAt: '2026-06-13T10:00:00.000Z',
  revision: 1,
  ...part,
});

export const someFindings = (part: Partial<Findings> = {}): Findings => ({
  found: true,
  inView: [],
  patches: [],
  readings: [],
  causes: [],
  ready: true,
  ...part,
});

/** A round of test frames. */
export const someCheck = (part: Partial<Check> = {}): Check => ({
  id: 3,
  setupId: 1,
  createdAt: '2026-06-13T10:00:00.000Z',
  pictures: [],
  marks: {},
  findings: null,
  signedAt: null,
  openPoints: [],
  revision: 1,
  ...part,
});

export const someBackground = (part: Partial<Background> = {}): Background => ({
  id: 1,
  name: 'Hall',
  width: 300,
  height: 400,
  picture: 'b1',
  tags: [],
  scene: noSceneFacts,
  removed: false,
  ...part,
});

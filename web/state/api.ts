import { z } from 'zod';
import {
  backgroundResultSchema,
  backgroundSchema,
  batchSchema,
  checkSchema,
  deliverySchema,
  erasureSchema,
  factorsSchema,
  frameSchema,
  keptMatteSchema,
  keptPathSchema,
  ribbonSchema,
  pathSchema,
  jobSchema,
  libraryItemSchema,
  lutResultSchema,
  lutSchema,
  planRowSchema,
  printOrderSchema,
  rehearsalListSchema,
  rehearsalSchema,
  setupSchema,
  shootDetailSchema,
  shootListSchema,
  shootLogSchema,
  shootSchema,
  spaceSchema,
  styleSchema,
  subjectSchema,
  tonesSchema,
  fringeSchema,
  type FringeAsked,
  testPictureResultSchema,
  type Activity,
  type BackgroundChange,
  type BackgroundResult,
  type CropChange,
  type DeliverySettings,
  type FrameChange,
  type Job,
  type LibraryEntry,
  type LibraryItem,
  type LutResult,
  type MarksGiven,
  type NewNote,
  type NewShoot,
  type PictureKind,
  type OwnPlace,
  type PaintRequest,
  type PlacedOn,
  type RehearsalAnswer,
  type SetupChange,
  type ShootChange,
  type ShotRequest,
  type SortingChange,
  type StyleChange,
  type SubjectChange,
  type TestPictureResult,
  type TestShot,
} from '../../contract/index.ts';
import { request, upload } from './request.ts';
import { uploadFrame } from './uploadFrame.ts';
import type { Recipe } from '../../core/cut/recipe.ts';
import type { Factors, ShootCosts, WorkPlace } from '../../core/log/index.ts';
import type { Subject as SubjectFields } from '../../core/gather/subject.ts';
import type { Card } from '../../core/place/card.ts';
import type { Extras } from '../../core/place/extras.ts';
import type { Look } from '../../core/place/look.ts';
import type { Size } from '../../core/place/placement.ts';
import type { Plan } from '../../core/plan/index.ts';
import type { Path } from '../../core/touch/touch.ts';

export const api = {
  shoots: () => request(shootListSchema, 'GET', '/shoots'),
  createShoot: (shoot: NewShoot) => request(shootSchema, 'POST', '/shoots', shoot),
  shoot: (id: number) => request(shootDetailSchema, 'GET', `/shoots/${id}`),
  changeShoot: (id: number, change: ShootChange) => request(shootSchema, 'PATCH', `/shoots/${id}`, change),
  duplicateShoot: (id: number, setupId?: number) => request(shootSchema, 'POST', `/shoots/${id}/copy`, { setupId }),
  removeShoot: (id: number) => request(z.undefined(), 'DELETE', `/shoots/${id}`),
  bringShootBack: (id: number) => request(shootSchema, 'POST', `/shoots/${id}/return`),
  bringSampleBack: () => request(shootListSchema, 'POST', '/sample'),
  endJob: (id: number) => request(jobSchema, 'DELETE', `/jobs/${id}`),
  createSetup: (shootId: number, name: string) => request(setupSchema, 'POST', `/shoots/${shootId}/setups`, { name }),
  changeSetup: (id: number, change: SetupChange & { seen?: SetupChange }) =>
    request(setupSchema, 'PATCH', `/setups/${id}`, change),
  gatherPlate: (setupId: number) => request(jobSchema, 'POST', `/setups/${setupId}/plate`),
  changeFrame: (id: number, change: FrameChange & { seen?: FrameChange }) =>
    request(frameSchema, 'PATCH', `/frames/${id}`, change),
  keepPath: (path: Path) => request(keptPathSchema, 'POST', '/paths', path),
  /** @param wanted fingerprint of the cut that is meant, if it is not the stored one. */
  ribbon: ({ id, cut }: CutFrame, view: string, across: number, wanted?: string) =>
    request(
      ribbonSchema,
      'GET',
      `/frames/${id}/ribbon?${new URLSearchParams({ view, across: `${across}`, v: cut?.version ?? '', ...(wanted ? { wanted } : {}) })}`,
    ),
  sort: (shootId: number, changes: readonly SortingChange[]) =>
    request(z.array(frameSchema), 'PUT', `/shoots/${shootId}/sorting`, { changes }),
  setClock: (shootId: number, body: string, seconds: number) =>
    request(z.array(frameSchema), 'PUT', `/shoots/${shootId}/clocks`, { body, seconds }),
  removeSetup: (id: number) => request(z.undefined(), 'DELETE', `/setups/${id}`),
  addSubjects: (shootId: number, subjects: readonly SubjectFields[]) =>
    request(z.array(subjectSchema), 'POST', `/shoots/${shootId}/subjects`, { subjects }),
  changeSubject: (id: number, change: SubjectChange & { seen?: SubjectChange }) =>
    request(subjectSchema, 'PATCH', `/subjects/${id}`, change),
  removeSubject: (id: number) => request(z.undefined(), 'DELETE', `/subjects/${id}`),
  eraseSubject: (id: number) => request(erasureSchema, 'DELETE', `/subjects/${id}/pictures`),
  removeFrame: (id: number) => request(z.undefined(), 'DELETE', `/frames/${id}`),
  cut: (setupId: number, frameIds?: number[]) => request(batchSchema, 'POST', `/setups/${setupId}/cut`, { frameIds }),
  tryRecipe: (setupId: number, recipe: Recipe) => request(jobSchema, 'POST', `/setups/${setupId}/trial`, { recipe }),
  cancel: (batchId: number) => request(batchSchema, 'DELETE', `/batches/${batchId}`),
  place: (shootId: number, placement: PlacedOn | null, frameIds: number[], places: readonly OwnPlace[]) =>
    request(z.array(frameSchema), 'PUT', `/shoots/${shootId}/placements`, { frameIds, placement, places }),
  changeStyle: (shootId: number, backgroundId: number, to: StyleChange, seen: StyleChange) =>
    request(styleSchema, 'PUT', `/shoots/${shootId}/styles/${backgroundId}`, { ...to, seen }),
  luts: () => request(z.array(lutSchema), 'GET', '/luts'),
  backgroundTones: (id: number) => request(tonesSchema, 'GET', `/backgrounds/${id}/tones`),
  fringe: ({ id, cut }: CutFrame, on: readonly FringeAsked[]) =>
    request(
      fringeSchema,
      'GET',
      `/frames/${id}/fringe?v=${cut?.version ?? ''}&on=${encodeURIComponent(JSON.stringify(on))}`,
    ),
  cutTones: ({ id, cut }: CutFrame) => request(tonesSchema, 'GET', `/frames/${id}/tones?v=${cut?.version ?? ''}`),
  changeBackground: (id: number, change: BackgroundChange & { seen?: Partial<BackgroundChange> }) =>
    request(backgroundSchema, 'PATCH', `/backgrounds/${id}`, change),
  paintBackground: (wanted: PaintRequest) => request(backgroundResultSchema, 'POST', '/backgrounds/painted', wanted),
  backgrounds: () => request(z.array(backgroundSchema), 'GET', '/backgrounds'),
  deliver: (shootId: number, settings: DeliverySettings) =>
    request(deliverySchema, 'POST', `/shoots/${shootId}/deliveries`, settings),
  repeatDelivery: (id: number) => request(deliverySchema, 'POST', `/deliveries/${id}/again`),
  removeDelivery: (id: number) => request(z.undefined(), 'DELETE', `/deliveries/${id}`),
  copyDelivery: (id: number, folder: string) => request(jobSchema, 'POST', `/deliveries/${id}/folder`, { folder }),
  printOrders: (deliveryId: number) => request(z.array(printOrderSchema), 'GET', `/deliveries/${deliveryId}/orders`),
  orderPrints: (deliveryId: number, copies: number) =>
    request(z.array(printOrderSchema), 'POST', `/deliveries/${deliveryId}/orders`, { copies }),
  acceptOrder: (id: number) => request(z.array(printOrderSchema), 'POST', `/orders/${id}/accept`),
  cropFrame: (id: number, change: CropChange) => request(frameSchema, 'PUT', `/frames/${id}/crop`, change),
  uploadProfile: (file: File): Promise<LibraryItem> =>
    upload(libraryItemSchema, '/library/profiles', file, () => undefined),
  log: (shootId: number) => request(shootLogSchema, 'GET', `/shoots/${shootId}/log`),
  space: (shootId: number) => request(spaceSchema, 'GET', `/shoots/${shootId}/space`),
  archive: (shootId: number, folder: string | null) =>
    request(jobSchema, 'POST', `/shoots/${shootId}/archive`, { folder }),
  logs: () => request(z.array(shootLogSchema), 'GET', '/log'),
  worked: (shootId: number, activity: Activity) =>
    request(z.undefined(), 'POST', `/shoots/${shootId}/activity`, activity),
  correctTime: (shootId: number, time: { place: WorkPlace; day: string; seconds: number | null }) =>
    request(shootLogSchema, 'PUT', `/shoots/${shootId}/times`, time),
  setCosts: (shootId: number, costs: ShootCosts) => request(shootLogSchema, 'PUT', `/shoots/${shootId}/costs`, costs),
  importShoot: (file: File, onProgress: (share: number) => void): Promise<Job> =>
    upload(jobSchema, '/shoots/import', file, onProgress),
  addNote: (shootId: number, note: NewNote) =>
    request(z.object({ id: z.number() }), 'POST', `/shoots/${shootId}/notes`, note),
  changeNote: (id: number, note: Partial<NewNote>) => request(z.undefined(), 'PATCH', `/notes/${id}`, note),
  removeNote: (id: number) => request(z.undefined(), 'DELETE', `/notes/${id}`),
  uploadNotePicture: (id: number, file: File) =>
    upload(z.object({ ok: z.boolean() }), `/notes/${id}/picture`, file, () => undefined),
  takeBallPicture: (noteId: number) => request(z.undefined(), 'POST', `/notes/${noteId}/ball`),
  factors: () => request(factorsSchema.nullable(), 'GET', '/log/factors'),
  takeFactors: (factors: Factors) => request(factorsSchema, 'POST', '/log/factors', factors),
  leaveFactors: () => request(factorsSchema.nullable(), 'DELETE', '/log/factors'),
  createPlan: (shootId: number, plan: Plan, setupId: number | null = null) =>
    request(planRowSchema, 'POST', `/shoots/${shootId}/plans`, { plan, setupId }),
  changePlan: (id: number, change: { plan?: Plan; setupId?: number | null }) =>
    request(planRowSchema, 'PATCH', `/plans/${id}`, change),
  removePlan: (id: number) => request(z.undefined(), 'DELETE', `/plans/${id}`),
  takeFrame: (planId: number, shot: ShotRequest) => request(jobSchema, 'POST', `/plans/${planId}/frames`, shot),
  handToRound: (frameId: number) => request(checkSchema, 'POST', `/frames/${frameId}/test-picture`),
  createCheck: (setupId: number) => request(checkSchema, 'POST', `/setups/${setupId}/checks`),
  removeCheck: (id: number) => request(z.undefined(), 'DELETE', `/checks/${id}`),
  takeTestFrame: (checkId: number, shot: TestShot) => request(jobSchema, 'POST', `/checks/${checkId}/shots`, shot),
  removeTestPicture: (checkId: number, kind: PictureKind) =>
    request(checkSchema, 'DELETE', `/checks/${checkId}/pictures/${encodeURIComponent(kind)}`),
  markCheck: (id: number, marks: MarksGiven) => request(checkSchema, 'PATCH', `/checks/${id}`, { marks }),
  readCheck: (id: number) => request(checkSchema, 'POST', `/checks/${id}/reading`),
  signCheck: (id: number, signed: boolean) =>
    request(checkSchema, signed ? 'PUT' : 'DELETE', `/checks/${id}/signature`),
  rehearsals: () => request(rehearsalListSchema, 'GET', '/rehearsals'),
  newRehearsal: (level: number, seed?: number) => request(jobSchema, 'POST', '/rehearsals', { level, seed }),
  rehearsal: (id: number) => request(rehearsalSchema, 'GET', `/rehearsals/${id}`),
  answerRehearsal: (id: number, answer: RehearsalAnswer) =>
    request(rehearsalSchema, 'POST', `/rehearsals/${id}/answer`, answer),
  library: () => request(z.array(libraryItemSchema), 'GET', '/library'),
  addToLibrary: (item: LibraryEntry) => request(libraryItemSchema, 'POST', '/library', item),
  changeLibrary: (id: number, item: LibraryEntry) => request(libraryItemSchema, 'PUT', `/library/${id}`, item),
  removeFromLibrary: (id: number) => request(z.undefined(), 'DELETE', `/library/${id}`),
  uploadFrame,
  uploadMatte: (frameId: number, file: File): Promise<{ file: string }> =>
    upload(keptMatteSchema, `/frames/${frameId}/matte`, file, () => undefined),
  uploadTestPicture: (
    checkId: number,
    kind: PictureKind | undefined,
    file: File,
    onProgress: (share: number) => void,
  ): Promise<TestPictureResult> =>
    upload(testPictureResultSchema, `/checks/${checkId}/pictures`, file, onProgress, kind && { kind }),
  uploadBackground: (file: File, onProgress: (share: number) => void): Promise<BackgroundResult> =>
    upload(backgroundResultSchema, '/backgrounds', file, onProgress),
  uploadLut: (file: File): Promise<LutResult> => upload(lutResultSchema, '/luts', file, () => undefined),
};

const paths = new Map<string, Promise<Path>>();
/** Where a hand went, by the name that a touch gives; each is fetched once. */
export function keptPath(name: string): Promise<Path> {
  const known = paths.get(name) ?? request(pathSchema, 'GET', `/paths/${name}`);
  paths.set(name, known);
  known.catch(() => paths.delete(name));
  return known;
}

type Shown = { id: number; picture: string };
type CutFrame = { id: number; cut: { version: string } | null };

/**
 * Addresses of pictures. Each names the content, so that the browser may keep it for ever and fetches it anew after
 * every change.
 */
export const pictures = {
  thumbnail: ({ id, picture }: Shown) => `/api/frames/${id}/thumbnail?v=${picture}`,
  /** Of the cut, or of the photograph while there is none. */
  latestThumbnail: ({ id, picture, cut }: Shown & CutFrame) =>
    cut ? `/api/frames/${id}/thumbnail?of=cut&v=${cut.version}` : pictures.thumbnail({ id, picture }),
  view: ({ id, picture }: Shown) => `/api/frames/${id}/view?v=${picture}`,
  working: ({ id, picture }: Shown) => `/api/frames/${id}/working?v=${picture}`,
  persons: ({ id, picture }: Shown) => `/api/frames/${id}/persons?v=${picture}`,
  /** Coverage of a cut, small. */
  figure: (id: number, version: string) => `/api/frames/${id}/figure?v=${version}`,
  matte: (file: string) => `/api/mattes/${file}`,
  cutout: (id: number, version: string) => `/api/frames/${id}/cutout?v=${version}`,
  /** @param wanted fingerprint of the cut that is meant, if it is not the stored one. */
  region: (
    { id, picture, cut, placement }: Shown & CutFrame & { placement: PlacedOn | null },
    view: string,
    area: { x: number; y: number; width: number; height: number },
    wanted?: string,
  ) => {
    const { x, y, width, height } = area;
    const query = new URLSearchParams({ view, x: `${x}`, y: `${y}`, width: `${width}`, height: `${height}` });
    query.set('v', view === 'photograph' ? picture : (cut?.version ?? ''));
    if (view === 'background') query.set('on', JSON.stringify(placement));
    if (wanted) query.set('wanted', wanted);
    return `/api/frames/${id}/region?${query}`;
  },
  /** A finished picture, small. */
  finished: (
    { id, cut, placement }: CutFrame & { placement: PlacedOn | null },
    look: Look,
    extras: Extras,
    light: string,
  ) =>
    `/api/frames/${id}/finished?${new URLSearchParams({
      v: cut?.version ?? '',
      on: JSON.stringify(placement),
      look: JSON.stringify(look),
      extras: JSON.stringify(extras),
      light,
    })}`,
  layer: ({ id, picture }: Shown) => `/api/backgrounds/${id}/layer?v=${picture}`,
  /** @param of what stands in its fields, so that the address names the picture. */
  card: (frameId: number, card: Card, background: string, { width, height }: Size, of: string) =>
    `/api/frames/${frameId}/card?${new URLSearchParams({
      card: JSON.stringify(card),
      background,
      width: `${width}`,
      height: `${height}`,
      of,
    })}`,
  lut: (id: number) => `/api/luts/${id}`,
  grade: (shootId: number, backgroundId: number) => `/api/shoots/${shootId}/styles/${backgroundId}/grade.cube`,
  background: ({ id, picture }: Shown, size: 'thumbnail' | 'view') => `/api/backgrounds/${id}/${size}?v=${picture}`,
  guidance: (frameId: number) => `/api/frames/${frameId}/guidance.json`,
  roster: (shootId: number) => `/api/shoots/${shootId}/roster.csv`,
  slates: (shootId: number) => `/api/shoots/${shootId}/slates.pdf`,
  bundle: (shootId: number, deliveries: boolean) => `/api/shoots/${shootId}/bundle${deliveries ? '?deliveries=1' : ''}`,
  notePicture: (id: number, picture: string) => `/api/notes/${id}/picture?v=${picture}`,
  log: (shootId: number | null, file: 'events.csv' | 'setups.csv' | 'shoots.csv') =>
    shootId === null ? `/api/log/${file}` : `/api/shoots/${shootId}/log/${file}`,
  logFile: (shootId: number) => `/api/shoots/${shootId}/log.json`,
  zip: (deliveryId: number) => `/api/deliveries/${deliveryId}/zip`,
  handedOver: (deliveryId: number, file: 'manifest.csv' | 'manifest.json' | 'contact-sheet.pdf' | 'order-slips.pdf') =>
    `/api/deliveries/${deliveryId}/${file}`,
  testPicture: (checkId: number, kind: PictureKind, version: string, size: 'view' | 'thumbnail') =>
    `/api/checks/${checkId}/pictures/${encodeURIComponent(kind)}/${size}?v=${version}`,
  rehearsed: (id: number, { kind, version }: { kind: PictureKind; version: string }) =>
    `/api/rehearsals/${id}/pictures/${encodeURIComponent(kind)}?v=${version}`,
  planFile: (planId: number, file: 'plan.json' | 'slots.csv' | 'slots.ics' | 'sheet.pdf', units = 'metric') =>
    `/api/plans/${planId}/${file}?units=${units}`,
};

import type { CutInput, CutOutput } from '../stations/extract/cutTask.ts';
import type { LookInput, LookOutput } from '../stations/extract/lookTask.ts';
import type { RibbonInput } from '../stations/extract/ribbonTask.ts';
import type { TrialInput, TrialOutput } from '../stations/extract/trialTask.ts';
import type { CopyOutInput, CopyOutOutput } from '../stations/handOver/copyOutTask.ts';
import type { PrintInput, PrintOutput } from '../stations/handOver/printTask.ts';
import type { FilesInput, FilesOutput } from '../stations/handOver/filesTask.ts';
import type { HeicInput, HeicOutput } from '../stations/gather/heicTask.ts';
import type { DevelopInput, DevelopOutput } from '../stations/gather/developTask.ts';
import type { FactsInput, FactsOutput } from '../stations/gather/factsTask.ts';
import type { PlateInput, PlateOutput } from '../stations/gather/plateTask.ts';
import type { ArchiveInput, ArchiveOutput } from '../stations/log/archiveTask.ts';
import type { UnpackInput, UnpackOutput } from '../stations/shoots/unpackTask.ts';
import type { ReadInput, RecogniseInput, RecogniseOutput } from '../stations/check/readTask.ts';
import type { RehearseInput, RehearseOutput } from '../stations/rehearsal/rehearseTask.ts';
import type { PaintInput } from '../stations/place/paintTask.ts';
import type { Finished } from '../stations/place/finishedTask.ts';
import type { FringeInput } from '../stations/place/fringeTask.ts';
import type { SvgInput } from '../stations/place/svgTask.ts';
import type { MadePicture } from '../http/receivePicture.ts';
import type { Measurable } from '../stations/place/tones.ts';
import type { Tones } from '../../core/place/index.ts';
import type { BackgroundInput, Rendered, ShotInput, Shown } from '../standIn/renderTask.ts';
import type { Findings, RibbonSheet } from '../../contract/index.ts';
import type { Bench } from './bench.ts';

/** What worker threads can be asked: what goes in and what comes out. */
export interface Tasks {
  cut: { input: CutInput; output: CutOutput };
  files: { input: FilesInput; output: FilesOutput };
  printOrder: { input: PrintInput; output: PrintOutput };
  unpack: { input: UnpackInput; output: UnpackOutput };
  archive: { input: ArchiveInput; output: ArchiveOutput };
  copyOut: { input: CopyOutInput; output: CopyOutOutput };
  plate: { input: PlateInput; output: PlateOutput };
  read: { input: ReadInput; output: Findings };
  recognise: { input: RecogniseInput; output: RecogniseOutput };
  rehearse: { input: RehearseInput; output: RehearseOutput };
  shot: { input: ShotInput; output: Shown };
  background: { input: BackgroundInput; output: Rendered };
  painted: { input: PaintInput; output: Rendered };
  ribbon: { input: RibbonInput; output: RibbonSheet };
  trial: { input: TrialInput; output: TrialOutput };
  look: { input: LookInput; output: LookOutput };
  finished: { input: Finished & { most: number }; output: { picture: Uint8Array } };
  fringe: { input: FringeInput; output: { seen: number[] } };
  tones: { input: Measurable; output: { tones: Tones | null } };
  facts: { input: FactsInput; output: FactsOutput };
  heic: { input: HeicInput; output: HeicOutput };
  svg: { input: SvgInput; output: MadePicture };
  develop: { input: DevelopInput; output: DevelopOutput };
  persons: { input: { hash: string }; output: Uint8Array };
}
export type TaskKind = keyof Tasks;
export type Input<K extends TaskKind> = Tasks[K]['input'];
export type Output<K extends TaskKind> = Tasks[K]['output'];

export type Doing<K extends TaskKind> = (input: Input<K>, bench: Bench) => Promise<Output<K>>;

/** Why something cannot be done: an expected answer and no fault. */
export interface Excuse {
  reason: string;
  remedy: string;
}
export type Answer<K extends TaskKind> =
  { ok: true; output: Output<K>; milliseconds: number } | ({ ok: false } & Excuse);

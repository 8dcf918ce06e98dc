import { judgingTones } from '../../../core/place/index.ts';
import type { ViewChoice } from '../../shared/ViewStrip.tsx';
import type { PreviewView } from '../../worker/picture.worker.ts';

const tones = Object.keys(judgingTones) as (keyof typeof judgingTones)[];

/** How a frame can be shown: as it is, as coverage, on the tones of the printed chart, on its background. */
export const views: ViewChoice<PreviewView>[] = [
  { value: 'photograph' as const, title: 'Photograph' },
  { value: 'matte' as const, title: 'Matte' },
  ...tones.map((tone) => ({
    value: tone,
    title: judgingTones[tone].title,
    patch: `rgb(${judgingTones[tone].tone.join(',')})`,
  })),
  { value: 'background' as const, title: 'Background' },
].map((view, n) => ({ ...view, keyName: String(n + 1) }));

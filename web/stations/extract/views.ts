import { judgingTones } from '../../../core/place/index.ts';
import type { ViewChoice } from '../../shared/ViewStrip.tsx';
import type { PreviewView } from '../../worker/picture.worker.ts';

const tones = Object.keys(judgingTones) as (keyof typeof judgingTones)[];

/** How a frame can be shown: as it is, as coverage, on the tones of the printed chart, on its background. */
export const mainViews: ViewChoice<PreviewView>[] = numbered(1, [
  { value: 'photograph', title: 'Photograph' },
  { value: 'matte', title: 'Matte' },
  ...tones.map((tone) => ({
    value: tone,
    title: judgingTones[tone].title,
    patch: `rgb(${judgingTones[tone].tone.join(',')})`,
  })),
  { value: 'background', title: 'Background' },
]);

/** One side of a cut at a time, with what is to be seen. */
export const sideViews: (ViewChoice<PreviewView> & { words: string })[] = [
  {
    value: 'greys',
    title: 'Greys only',
    keyName: '8',
    words: 'Half-covered pixels in their own grey; what is solid or clear is blue.',
  },
  {
    value: 'spill',
    title: 'Spill taken',
    keyName: '9',
    words: 'On mid-grey the colour that removing spill took away, three times as strong.',
  },
  {
    value: 'colour',
    title: 'Colour alone',
    words: 'The person’s own colour wherever there is some of it, as if all were solid.',
  },
  {
    value: 'change',
    title: 'Changed since',
    words:
      'Against the extracted cut: white where there is more now, black where less, tinted where the colour differs.',
  },
];

export const allViews: ViewChoice<PreviewView>[] = [...mainViews, ...sideViews];

/** The view that a key chooses. */
export function viewOfKey(key: string): PreviewView | undefined {
  return allViews.find(({ keyName }) => keyName === key)?.value;
}

function numbered(from: number, views: ViewChoice<PreviewView>[]): ViewChoice<PreviewView>[] {
  return views.map((view, n) => ({ ...view, keyName: String(from + n) }));
}

import type { Check, Findings } from '../../../contract/index.ts';
import { StopsMap } from '../../shared/StopsMap.tsx';
import { api, pictures } from '../../state/api.ts';
import { attempt } from '../../state/store.ts';
import { EvidencePicture } from './EvidencePicture.tsx';
import { titleOf } from './kinds.ts';
import { evidenceOn, extremes, mapOf, type View } from './views.ts';

/** The chosen photograph with what was found on it, or the chosen map. */
export function RoundPicture({
  check,
  shown,
  findings,
  previous,
  cause,
  marking,
  onMarked,
}: {
  check: Check;
  shown: View | undefined;
  findings: Findings | undefined;
  previous: Findings | undefined;
  cause: string | undefined;
  marking: boolean;
  onMarked: () => void;
}) {
  const map = mapOf(shown, findings, previous);
  const picture = check.pictures.find((p) => p.kind === shown);
  if (map) {
    const lead = check.pictures.find((p) => p.kind === 'plate') ?? check.pictures[0];
    return (
      <StopsMap
        {...map}
        places={extremes(map)}
        aspect={lead.width / lead.height}
        label={shown === 'lawn' ? 'Lawn map, stops around the mean' : 'Difference of lawn maps, stops'}
      />
    );
  }
  if (!picture) return null;
  const { kind } = picture;
  const circle =
    kind === 'ball'
      ? (check.marks.ball ?? findings?.ball?.circle)
      : kind === 'background'
        ? check.marks.background
        : undefined;
  const round = kind === 'ball' || kind === 'background';
  return (
    <EvidencePicture
      src={pictures.testPicture(check.id, kind, picture.version, 'view')}
      label={titleOf(kind)}
      aspect={picture.width / picture.height}
      evidence={evidenceOn(kind, findings, cause)}
      outline={kind === 'plate' && findings?.outline && findings.outline.share < 0.995 ? findings.outline.polygon : []}
      circle={circle}
      onMark={
        marking
          ? {
              shape: round ? 'circle' : 'box',
              done: (place) => {
                onMarked();
                const aspect = picture.height / picture.width;
                const key =
                  kind === 'grey card'
                    ? 'card'
                    : kind === 'colour chart'
                      ? 'chart'
                      : kind === 'background'
                        ? 'background'
                        : 'ball';
                const mark = round
                  ? { x: place.x + place.width / 2, y: (place.y + place.height / 2) * aspect, radius: place.width / 2 }
                  : place;
                void attempt(api.markCheck(check.id, { ...check.marks, [key]: mark }));
              },
            }
          : undefined
      }
    />
  );
}

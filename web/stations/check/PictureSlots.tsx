import { Button } from '@mui/material';
import { useRef } from 'react';
import type { Check, PictureKind } from '../../../contract/index.ts';
import { pictures } from '../../state/api.ts';
import { kinds } from './kinds.ts';

/** The photographs of a round: what is there, what may still be taken or dropped. */
export function PictureSlots({
  check,
  shown,
  busy,
  canTake,
  onShow,
  onFile,
  onTake,
  onRemove,
}: {
  check: Check;
  shown: PictureKind | undefined;
  busy: PictureKind | undefined;
  canTake: boolean;
  onShow: (kind: PictureKind) => void;
  onFile: (file: File, kind: PictureKind) => void;
  onTake: (kind: PictureKind) => void;
  onRemove: (kind: PictureKind) => void;
}) {
  const file = useRef<HTMLInputElement>(null);
  const wanted = useRef<PictureKind>('people');
  return (
    <ul className="slots" aria-label="Photographs of this round">
      {kinds.map(({ kind, title, hint, takes }) => {
        const picture = check.pictures.find((one) => one.kind === kind);
        return (
          <li key={kind} aria-current={picture && shown === kind}>
            {picture ? (
              <button
                type="button"
                className="slot-picture"
                onClick={() => onShow(kind)}
                aria-label={`Show ${title.toLowerCase()}`}
              >
                <img src={pictures.testPicture(check.id, kind, picture.version, 'thumbnail')} alt="" />
              </button>
            ) : (
              <span className="slot-picture empty-slot" aria-hidden="true" />
            )}
            <span className="slot-words">
              <strong>{title}</strong>
              <small className="quiet">{picture ? picture.name : hint}</small>
              <span className="slot-actions">
                <Button
                  variant="text"
                  disabled={busy !== undefined}
                  aria-label={`${picture ? 'Replace' : 'Choose'} ${title.toLowerCase()}`}
                  onClick={() => {
                    wanted.current = kind;
                    file.current?.click();
                  }}
                >
                  {picture ? 'Replace' : 'Choose'}
                </Button>
                {takes && canTake && (
                  <Button
                    variant="text"
                    disabled={busy !== undefined}
                    aria-label={`Take ${title.toLowerCase()} with the stand-in camera`}
                    onClick={() => onTake(kind)}
                  >
                    Take
                  </Button>
                )}
                {picture && (
                  <Button
                    variant="text"
                    disabled={busy !== undefined}
                    aria-label={`Take out ${title.toLowerCase()}`}
                    onClick={() => onRemove(kind)}
                  >
                    Out
                  </Button>
                )}
              </span>
            </span>
          </li>
        );
      })}
      <input
        ref={file}
        type="file"
        accept="image/jpeg,image/png,image/tiff"
        aria-label="Photograph for this place"
        hidden
        onChange={(event) => {
          const chosen = event.target.files?.[0];
          event.target.value = '';
          if (chosen) onFile(chosen, wanted.current);
        }}
      />
    </ul>
  );
}

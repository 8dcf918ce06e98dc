import { Button, List, ListItem, ListItemButton, styled } from '@mui/material';
import { useRef } from 'react';
import { useDropzone } from 'react-dropzone';
import type { Check, PictureKind } from '../../../contract/index.ts';
import { FileInput } from '../../shared/FileInput.tsx';
import { pictures } from '../../state/api.ts';
import { kinds } from './kinds.ts';

const Slots = styled(List)`
  & > li {
    display: grid;
    grid-template-columns: 46px 1fr;
    gap: 9px;
    padding: 5px 14px 4px 11px;
    border-bottom: 1px solid var(--hairline);
    border-left: 5px solid transparent;
    align-items: start;
  }
  & > li[aria-current='true'] {
    background: var(--accent-wash);
    border-left-color: var(--accent);
  }
  & .slot {
    width: 46px;
    height: 58px;
    padding: 0;
    border: 0;
    background: var(--surround);
    overflow: hidden;
  }
  & .slot img {
    width: 100%;
    height: 100%;
    object-fit: cover;
  }
  & .slot.empty {
    background: repeating-linear-gradient(135deg, var(--paper) 0 5px, var(--hairline) 5px 6px);
  }
  & .words {
    display: grid;
    min-width: 0;
    line-height: 1.25;
    align-content: start;
  }
  & small {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  & .words .MuiButton-root {
    padding: 0 6px 0 0;
  }
`;

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
  /** A file is on its way. */
  busy: boolean;
  canTake: boolean;
  onShow: (kind: PictureKind) => void;
  onFile: (file: File, kind: PictureKind) => void;
  onTake: (kind: PictureKind) => void;
  onRemove: (kind: PictureKind) => void;
}) {
  const wanted = useRef<PictureKind>('people');
  const { getInputProps, open } = useDropzone({
    multiple: false,
    noDrag: true,
    onDrop: (files) => files[0] && onFile(files[0], wanted.current),
  });
  const choose = (kind: PictureKind): void => {
    wanted.current = kind;
    open();
  };
  return (
    <Slots aria-label="Photographs of this round">
      {kinds.map(({ kind, title, hint, takes }) => {
        const picture = check.pictures.find((one) => one.kind === kind);
        const name = title.toLowerCase();
        return (
          <ListItem key={kind} disablePadding aria-current={picture && shown === kind}>
            {picture ? (
              <ListItemButton
                component="button"
                className="slot"
                aria-label={`Show ${name}`}
                onClick={() => onShow(kind)}
              >
                <img src={pictures.testPicture(check.id, kind, picture.version, 'thumbnail')} alt="" />
              </ListItemButton>
            ) : (
              <span className="slot empty" aria-hidden="true" />
            )}
            <span className="words">
              <strong>{title}</strong>
              <small className="quiet">{picture ? picture.name : hint}</small>
              <span>
                <Button
                  variant="text"
                  disabled={busy}
                  aria-label={`${picture ? 'Replace' : 'Choose'} ${name}`}
                  onClick={() => choose(kind)}
                >
                  {picture ? 'Replace' : 'Choose'}
                </Button>
                {takes && canTake && (
                  <Button
                    variant="text"
                    disabled={busy}
                    aria-label={`Take ${name} with the stand-in camera`}
                    onClick={() => onTake(kind)}
                  >
                    Take
                  </Button>
                )}
                {picture && (
                  <Button variant="text" disabled={busy} aria-label={`Take out ${name}`} onClick={() => onRemove(kind)}>
                    Out
                  </Button>
                )}
              </span>
            </span>
          </ListItem>
        );
      })}
      <FileInput label="Photograph for this place" props={getInputProps} />
    </Slots>
  );
}

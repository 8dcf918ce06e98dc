import { useState } from 'react';
import type { Check, PictureKind, TestPictureResult } from '../../../contract/index.ts';
import { api } from '../../state/api.ts';
import { RequestError } from '../../state/request.ts';

/** A test frame on its way to the server. */
export interface Upload {
  name: string;
  kind?: PictureKind;
  share: number;
}
export type Refused = Extract<TestPictureResult, { outcome: 'refused' }>;

/**
 * Sends test frames into a round, one after another; what is refused is listed and stops no other.
 * @param roundOf the round they go to, begun if there is none; undefined if that failed.
 * @param onTaken what a picture that was taken was recognised as.
 */
export function useReceiving(
  roundOf: () => Promise<Check | undefined>,
  onTaken: (kind: PictureKind) => void,
): { upload?: Upload; refused: Refused[]; receive: (files: File[], kind?: PictureKind) => Promise<void> } {
  const [upload, setUpload] = useState<Upload>();
  const [refused, setRefused] = useState<Refused[]>([]);
  const receive = async (files: File[], kind?: PictureKind): Promise<void> => {
    setRefused([]);
    const round = await roundOf();
    if (!round) return;
    for (const file of files) {
      const { name } = file;
      setUpload({ name, kind, share: 0 });
      const result = await api
        .uploadTestPicture(round.id, kind, file, (share) => setUpload({ name, kind, share }))
        .catch((error) => ({ outcome: 'refused' as const, name, ...(error as RequestError).problem }));
      if (result.outcome === 'refused') setRefused((list) => [...list, result]);
      else onTaken(result.kind);
    }
    setUpload(undefined);
  };
  return { upload, refused, receive };
}

import { newRehearsalSchema } from '../../../contract/index.ts';
import type { RehearsedCause } from '../../../core/screen/index.ts';
import { rehearsals } from '../../database/schema.ts';
import { defined, ready } from '../../jobs/definition.ts';

/** A set with hidden faults, its photographs and what is read from them. */
export const rehearsalJob = defined({
  lane: 'set',
  payload: newRehearsalSchema.required(),
  prepare: (_hands, _job, { level, seed }) =>
    Promise.resolve(
      ready<'rehearse'>({
        task: 'rehearse',
        input: { level, seed },
        files: ({ pictures }) => pictures.map(({ file }) => file),
        keep: async (tx, { causes, pictures, findings }) => {
          const kept = pictures.map((picture) => ({
            ...picture,
            name: picture.kind,
            version: picture.file.slice(0, 16),
          }));
          const [{ insertId }] = await tx
            .insert(rehearsals)
            .values({ level, seed, causes: causes as RehearsedCause[], pictures: kept, findings });
          return { made: { rehearsalId: insertId } };
        },
      }),
    ),
});

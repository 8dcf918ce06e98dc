import { createHash } from 'node:crypto';
import { join } from 'node:path';
import { z } from 'zod';
import { folderRequestSchema, id } from '../../../contract/index.ts';
import { safeName } from '../../../core/handOver/index.ts';
import { defined, ready } from '../../jobs/definition.ts';
import { handedOver } from './manifest.ts';
import { entriesOf } from './package.ts';

/** A hand-over copied to a folder of the server’s machine. */
export const copyOutJob = defined({
  lane: 'set',
  payload: z.object({ deliveryId: id, ...folderRequestSchema.shape }),
  async prepare({ database, store }, _job, { deliveryId, folder }) {
    const made = await handedOver({ database, store }, deliveryId);
    const entries = await entriesOf(made, store);
    return ready<'copyOut'>({
      task: 'copyOut',
      input: {
        // A folder of its own, so that two hand-overs never meet.
        folder: join(folder, safeName(`${made.shoot.name} ${made.shoot.date} hand-over ${deliveryId}`)),
        files: entries.map((entry) =>
          'stored' in entry
            ? { name: entry.name, hash: entry.stored.sha256, bytes: entry.stored.bytes, content: null }
            : {
                name: entry.name,
                hash: createHash('sha256').update(entry.content).digest('hex'),
                bytes: entry.content.length,
                content: entry.content,
              },
        ),
      },
      files: () => [],
      keep: () => Promise.resolve({ made: {} }),
    });
  },
});

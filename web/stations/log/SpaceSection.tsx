import { Link, Table, TableBody, TableCell, TableRow } from '@mui/material';
import { useEffect, useState } from 'react';
import { Link as RouterLink } from 'react-router';
import type { SpaceTaken } from '../../../contract/index.ts';
import { counted, fileSize } from '../../shared/format.ts';
import { api } from '../../state/api.ts';
import { attempt } from '../../state/store.ts';

/** What of it can go, and what then. */
const goes: Record<SpaceTaken['what'], string> = {
  photographs: 'are the shoot itself',
  cuts: 'can be extracted again, with what was said of them',
  'test frames and notes': 'go with their round or note',
  'hand-overs': 'can go: they are made again from the same settings',
};

/** How much of the disk a shoot takes, and what of it can go. */
export function SpaceSection({ shootId }: { shootId: number }) {
  const [space, setSpace] = useState<SpaceTaken[]>();
  useEffect(() => void attempt(api.space(shootId)).then((read) => read && setSpace(read)), [shootId]);
  if (!space) return null;
  return (
    <section>
      <h2>Space on the disk</h2>
      <Table size="small" aria-label="Space on the disk">
        <TableBody>
          {space
            .filter(({ files }) => files > 0)
            .map(({ what, files, bytes }) => (
              <TableRow key={what}>
                <TableCell>
                  {what} <span className="quiet">{goes[what]}</span>
                </TableCell>
                <TableCell align="right" className="figure">
                  {counted(files, 'file')}
                </TableCell>
                <TableCell align="right" className="figure">
                  {fileSize(bytes)}
                </TableCell>
              </TableRow>
            ))}
          <TableRow>
            <TableCell colSpan={2}>
              <strong>In all</strong>
            </TableCell>
            <TableCell align="right" className="figure">
              <strong>{fileSize(space.reduce((sum, { bytes }) => sum + bytes, 0))}</strong>
            </TableCell>
          </TableRow>
        </TableBody>
      </Table>
      <p className="quiet">
        Hand-overs are removed at{' '}
        <Link component={RouterLink} to={`/shoots/${shootId}/hand-over`}>
          Hand over
        </Link>
        ; a whole shoot is carried away as one file from the list of shoots, and can then be removed.
      </p>
    </section>
  );
}

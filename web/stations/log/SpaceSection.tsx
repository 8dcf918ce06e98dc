import FolderIcon from '@mui/icons-material/FolderOutlined';
import { Button, Link, Table, TableBody, TableCell, TableRow } from '@mui/material';
import { useEffect, useState } from 'react';
import { Link as RouterLink } from 'react-router';
import type { Space, SpaceTaken } from '../../../contract/index.ts';
import { FolderForm } from '../../shared/FolderForm.tsx';
import { counted, fileSize } from '../../shared/format.ts';
import { JobFailed, JobLine } from '../../shared/JobLine.tsx';
import { Actions } from '../../shared/layout.tsx';
import { Problem } from '../../shared/Problem.tsx';
import { api } from '../../state/api.ts';
import { startJob, useFailedJob, useOpenJob } from '../../state/jobs.ts';
import { attempt } from '../../state/store.ts';

/** What of it can go, and what then. */
const goes: Record<SpaceTaken['what'], string> = {
  photographs: 'are the shoot itself',
  cuts: 'can be extracted again, with what was said of them',
  'test frames and notes': 'go with their round or note',
  'hand-overs': 'can go: they are made again from the same settings',
};

/** How much of the disks a shoot takes, what of it can go, and how its pictures move to another disk. */
export function SpaceSection({ shootId }: { shootId: number }) {
  const [space, setSpace] = useState<Space>();
  const job = useOpenJob(['archive'], {});
  const failed = useFailedJob(['archive'], {});
  const moving = job !== undefined;
  useEffect(() => void attempt(api.space(shootId)).then((read) => read && setSpace(read)), [shootId, moving]);
  if (!space) return null;
  return (
    <section style={{ marginTop: 20 }}>
      <h2>Space on the disk</h2>
      <Table size="small" aria-label="Space on the disk">
        <TableBody>
          {space.taken
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
              <strong>{fileSize(space.taken.reduce((sum, { bytes }) => sum + bytes, 0))}</strong>
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
      {job ? (
        <JobLine job={job} label="Moving pictures" words="Moving the pictures" />
      ) : (
        <Archive key={space.archive?.folder} shootId={shootId} archive={space.archive} />
      )}
      <JobFailed job={failed} />
    </section>
  );
}

/** Where the pictures are; moves them to a folder elsewhere, or back. */
function Archive({ shootId, archive }: { shootId: number; archive: Space['archive'] }) {
  const [asking, setAsking] = useState(false);
  const move = (to: string | null): Promise<unknown> => startJob(api.archive(shootId, to));
  if (archive)
    return (
      <>
        {archive.there ? (
          <p>
            Its pictures lie in the archive <strong>{archive.folder}</strong> and are found there as before.
          </p>
        ) : (
          <Problem lead={`Its pictures lie in the archive ${archive.folder}, which is not there now.`} role="note">
            Connect its disk to work on them; the small pictures and everything that is written down are here.
          </Problem>
        )}
        <Actions>
          <Button onClick={() => void move(null)} disabled={!archive.there}>
            Bring them back
          </Button>
          <Button variant="text" onClick={() => void move(archive.folder)}>
            Move what is new there, too
          </Button>
        </Actions>
      </>
    );
  return (
    <>
      <Actions>
        <Button startIcon={<FolderIcon />} aria-expanded={asking} onClick={() => setAsking(!asking)}>
          Move the pictures to another disk
        </Button>
      </Actions>
      {asking && (
        <FolderForm
          help="They are found there as long as its disk is connected, and can be brought back."
          action="Move"
          onGiven={move}
        />
      )}
    </>
  );
}

import CopyIcon from '@mui/icons-material/ContentCopy';
import DownloadIcon from '@mui/icons-material/DownloadOutlined';
import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import EditIcon from '@mui/icons-material/EditOutlined';
import MoreIcon from '@mui/icons-material/MoreVert';
import { Button, IconButton, Link, ListItemIcon, Menu, MenuItem, styled } from '@mui/material';
import { useState } from 'react';
import { Link as RouterLink } from 'react-router';
import type { Shoot } from '../../../contract/index.ts';
import { counted, longDate, minutes } from '../../shared/format.ts';
import { StepWedge } from '../../shared/StepWedge.tsx';
import { pictures } from '../../state/api.ts';
import { nextStep } from './nextStep.ts';

const Card = styled('article')`
  border-top: 1px solid var(--ink);
  padding: 10px 0 4px;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 300px;
  gap: 8px 24px;
  & .head {
    display: flex;
    align-items: baseline;
    gap: 8px;
  }
  & .next {
    grid-row: span 2;
    display: grid;
    align-content: start;
    justify-items: start;
    gap: 6px;
  }
`;

const Strip = styled('div')`
  display: grid;
  grid-template-columns: repeat(6, 1fr);
  gap: 6px;
  background: var(--surround);
  padding: 8px;
  min-height: 112px;
  align-items: center;
  & img {
    width: 100%;
    height: 112px;
    object-fit: cover;
    object-position: 50% 15%;
    display: block;
  }
  & p {
    grid-column: 1 / -1;
    color: #fff;
    text-align: center;
  }
`;

const Stations = styled('dl')`
  display: flex;
  flex-wrap: wrap;
  gap: 2px 18px;
  & > div {
    display: flex;
    gap: 5px;
  }
`;

/** A shoot as the start page shows it: its pictures, how it stands at each station, and what to do next. */
export function ShootCard({
  shoot,
  cutSeconds,
  onRename,
  onDuplicate,
  onRemove,
}: {
  shoot: Shoot;
  cutSeconds: number | null;
  onRename: () => void;
  onDuplicate: () => void;
  onRemove: () => void;
}) {
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const next = nextStep(shoot, cutSeconds);
  const choose = (what: () => void) => (): void => {
    setMenu(null);
    what();
  };
  return (
    <Card aria-label={shoot.name}>
      <div className="head">
        <Link component={RouterLink} to={`/shoots/${shoot.id}`} sx={{ fontSize: 17, fontWeight: 640 }}>
          {shoot.name}
        </Link>
        <span className="quiet">
          <span className="figure">{longDate(shoot.date)}</span>
          {shoot.place && `, ${shoot.place}`}
          {shoot.sample && ', sample shoot'}
          {shoot.archive !== null && `, pictures in ${shoot.archive}`}
        </span>
        <IconButton
          aria-label={`More for ${shoot.name}`}
          aria-haspopup="menu"
          sx={{ ml: 'auto' }}
          onClick={(event) => setMenu(event.currentTarget)}
        >
          <MoreIcon />
        </IconButton>
        <Menu anchorEl={menu} open={menu !== null} onClose={() => setMenu(null)}>
          <MenuItem onClick={choose(onRename)}>
            <ListItemIcon>
              <EditIcon />
            </ListItemIcon>
            Name, date, place
          </MenuItem>
          <MenuItem onClick={choose(onDuplicate)}>
            <ListItemIcon>
              <CopyIcon />
            </ListItemIcon>
            Duplicate its plans and settings
          </MenuItem>
          <MenuItem component="a" href={pictures.bundle(shoot.id, false)} download onClick={choose(() => undefined)}>
            <ListItemIcon>
              <DownloadIcon />
            </ListItemIcon>
            Carry it away as one file
          </MenuItem>
          {shoot.handedOver > 0 && (
            <MenuItem component="a" href={pictures.bundle(shoot.id, true)} download onClick={choose(() => undefined)}>
              <ListItemIcon>
                <DownloadIcon />
              </ListItemIcon>
              Carry it away with its hand-overs
            </MenuItem>
          )}
          <MenuItem onClick={choose(onRemove)}>
            <ListItemIcon>
              <DeleteIcon />
            </ListItemIcon>
            Remove
          </MenuItem>
        </Menu>
      </div>
      <div className="next">
        <Button
          variant="contained"
          color="primary"
          component={RouterLink}
          to={`/shoots/${shoot.id}/${next.path}`}
          aria-label={`${next.words}, ${shoot.name}`}
        >
          {next.words}
        </Button>
        {shoot.pending === 0 && <span className="quiet figure">{next.cost}</span>}
        {shoot.pending > 0 && (
          <div role="status" style={{ width: '100%', display: 'grid', gap: 4 }}>
            <span className="quiet">
              The sample is being rendered, extracted, placed and tested;{' '}
              <span className="figure">{shoot.pending}</span> pictures to go.
            </span>
            <StepWedge share={shoot.frames / (shoot.frames + shoot.pending)} label="Sample" />
          </div>
        )}
      </div>
      <Strip>
        {shoot.strip.map((frame) => (
          <img key={frame.id} src={pictures.latestThumbnail(frame)} alt="" loading="lazy" />
        ))}
        {!shoot.strip.length && <p>No frames yet</p>}
      </Strip>
      <Stations>
        <Standing name="Plan" figure={shoot.plans ? counted(shoot.plans, 'set') : 'none'} />
        <Standing name="Check" figure={shoot.rounds ? `${shoot.signed} of ${shoot.rounds} signed off` : 'none'} />
        <Standing name="Gather" figure={counted(shoot.frames, 'frame')} />
        <Standing
          name="Extract"
          figure={`${shoot.cut} of ${shoot.frames}${shoot.cut ? `, ${minutes(shoot.minutes)}` : ''}`}
        />
        <Standing name="Place" figure={`${shoot.placed} of ${shoot.frames}`} />
        <Standing name="Hand over" figure={shoot.handedOver ? `${shoot.handedOver} made` : 'none'} />
      </Stations>
    </Card>
  );
}

function Standing({ name, figure }: { name: string; figure: string }) {
  return (
    <div>
      <dt className="quiet">{name}</dt>
      <dd className="figure">{figure}</dd>
    </div>
  );
}

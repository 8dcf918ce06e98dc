import { styled } from '@mui/material';
import { useMemo } from 'react';
import { NavLink } from 'react-router';
import type { Check } from '../../contract/index.ts';
import { byOwnLog } from '../../core/log/index.ts';
import { quickReport } from '../../core/plan/index.ts';
import { experienceOf, minutesToAll } from '../../core/touch/review.ts';
import { counted, minutes } from '../shared/format.ts';
import { useOwnFactors } from '../state/factors.ts';
import { isPicture, useStore } from '../state/store.ts';

const Ruler = styled('nav')`
  display: flex;
  padding: 0 20px;
  background: repeating-linear-gradient(90deg, var(--rule) 0 1px, transparent 1px 12px) 20px 100% / calc(100% - 40px)
    5px no-repeat;
  & a {
    flex: 0 0 180px;
    display: grid;
    grid-template-columns: auto 1fr;
    column-gap: 8px;
    padding: 3px 10px 11px;
    border-left: 1px solid var(--ink);
    color: inherit;
    text-decoration: none;
    margin-right: 24px;
    position: relative;
  }
  & strong {
    font-weight: 640;
    font-size: 15px;
    white-space: nowrap;
  }
  & .figure {
    color: var(--pencil);
    align-self: end;
    white-space: nowrap;
  }
  & a[aria-current] {
    border-left: 5px solid var(--accent);
  }
  & a[aria-current] strong {
    color: var(--accent);
  }
  @media (max-width: 1500px) {
    & a {
      flex: 1 1 auto;
      margin-right: 4px;
      padding-right: 2px;
      column-gap: 6px;
    }
    & .figure {
      min-width: 0;
      overflow: hidden;
      text-overflow: ellipsis;
    }
  }
`;

/** The path through a shoot as a ruler; each station shows how it stands in numbers. */
export function StationRuler({ shootId }: { shootId: number }) {
  const frames = useStore((state) => state.frames);
  const plans = useStore((state) => state.plans);
  const setups = useStore((state) => state.setups);
  const checks = useStore((state) => state.checks);
  const deliveries = useStore((state) => state.deliveries);
  const factors = useOwnFactors();
  const pictures = frames.filter(isPicture);
  const cut = pictures.filter((frame) => frame.cut);
  const failed = frames.filter((frame) => frame.job?.state === 'failed').length;
  const byHand = useMemo(() => {
    const all = frames.filter(isPicture);
    return minutesToAll(all, experienceOf(all, factors.doubts));
  }, [frames, factors]);
  const placed = pictures.filter((frame) => frame.placement).length;
  const planned = useMemo(
    () => plans.reduce((sum, row) => sum + byOwnLog(quickReport(row.plan).forecast, factors).minutes, 0),
    [plans, factors],
  );
  const accepted = pictures.filter(({ review }) => review?.state === 'accepted');
  const spent = accepted.reduce((sum, { review }) => sum + (review?.seconds ?? 0), 0);
  const stations = [
    {
      path: 'plan',
      name: 'Plan',
      figure: plans.length ? `${counted(plans.length, 'set')}, ${minutes(planned)}` : 'none yet',
    },
    { path: 'check', name: 'Check', figure: checkFigure(checks) },
    {
      path: 'gather',
      name: 'Gather',
      figure: `${counted(pictures.length, 'frame')}, ${counted(setups.length, 'setup')}`,
    },
    {
      path: 'extract',
      name: 'Extract',
      figure: `${cut.length} of ${pictures.length}${failed ? `, ${failed} failed` : cut.length ? `, ${Math.round(byHand)} min` : ''}`,
    },
    { path: 'place', name: 'Place', figure: `${placed} of ${pictures.length}` },
    { path: 'hand-over', name: 'Hand over', figure: deliveries.length ? `${deliveries.length} made` : 'none yet' },
    { path: 'log', name: 'Log', figure: accepted.length ? `${Math.round(spent / 60)} min spent` : 'by itself' },
  ];
  return (
    <Ruler aria-label="Stations">
      {stations.map(({ path, name, figure }) => (
        <NavLink key={path} to={`/shoots/${shootId}/${path}`}>
          <strong>{name}</strong>
          <span className="figure">{figure}</span>
        </NavLink>
      ))}
    </Ruler>
  );
}

/** The latest round of each setup counts. */
function checkFigure(checks: Check[]): string {
  if (!checks.length) return 'none yet';
  const latest = [...new Map(checks.map((check) => [check.setupId, check])).values()];
  const signed = latest.filter((check) => check.signedAt).length;
  if (signed === latest.length) return `${signed} signed off`;
  const beyond = latest.reduce(
    (sum, { findings, signedAt }) =>
      sum + (signedAt ? 0 : (findings?.readings.filter(({ verdict }) => verdict === 'beyond').length ?? 0)),
    0,
  );
  return `${beyond} out of bounds`;
}

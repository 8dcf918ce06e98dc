import { useMemo } from 'react';
import { NavLink } from 'react-router';
import type { Check } from '../../contract/index.ts';
import { forecastMinutes } from '../../core/plan/index.ts';
import { minutes } from '../shared/format.ts';
import { isPlate, useStore } from '../state/store.ts';

/** The path through a shoot as a ruler; each station shows how it stands in numbers. */
export function StationRuler({ shootId }: { shootId: number }) {
  const frames = useStore((state) => state.frames);
  const plans = useStore((state) => state.plans);
  const setups = useStore((state) => state.setups);
  const checks = useStore((state) => state.checks);
  const deliveries = useStore((state) => state.deliveries);
  const pictures = frames.filter((frame) => !isPlate(frame, setups));
  const cut = pictures.filter((frame) => frame.cut);
  const failed = frames.filter((frame) => frame.job?.state === 'failed').length;
  const byHand = cut.reduce((sum, frame) => sum + (frame.cut?.quality.minutes ?? 0), 0);
  const placed = pictures.filter((frame) => frame.placement).length;
  const planned = useMemo(() => plans.reduce((sum, row) => sum + forecastMinutes(row.plan), 0), [plans]);
  const stations = [
    {
      path: 'plan',
      name: 'Plan',
      figure: plans.length ? `${plans.length} ${plans.length === 1 ? 'set' : 'sets'}, ${minutes(planned)}` : 'none yet',
    },
    { path: 'check', name: 'Check', figure: checkFigure(checks) },
    {
      path: 'gather',
      name: 'Gather',
      figure: `${pictures.length} frames, ${setups.length} ${setups.length === 1 ? 'setup' : 'setups'}`,
    },
    {
      path: 'cut',
      name: 'Cut',
      figure: `${cut.length} of ${pictures.length}${failed ? `, ${failed} failed` : cut.length ? `, ${minutes(byHand)}` : ''}`,
    },
    { path: 'place', name: 'Place', figure: `${placed} of ${pictures.length}` },
    { path: 'deliver', name: 'Deliver', figure: deliveries.length ? `${deliveries.length} made` : 'none yet' },
  ];
  return (
    <nav className="ruler" aria-label="Stations">
      {stations.map(({ path, name, figure }) => (
        <NavLink key={path} to={`/shoots/${shootId}/${path}`}>
          <strong>{name}</strong>
          <span className="figure">{figure}</span>
        </NavLink>
      ))}
    </nav>
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

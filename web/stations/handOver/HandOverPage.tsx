import { Button, Slider } from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Delivery, DeliverySettings } from '../../../contract/index.ts';
import { fileSize, timeLeft } from '../../shared/format.ts';
import { StepWedge } from '../../shared/StepWedge.tsx';
import { api, pictures } from '../../state/api.ts';
import { attempt, useStore } from '../../state/store.ts';

const cutoutChoices = [
  { value: 'png', title: 'PNG, 8 bit', note: 'for most uses' },
  {
    value: 'png16',
    title: 'PNG, 16 bit',
    note: 'finer steps in hair and soft edges; larger, and cut once more from the photograph if that has 8 bit',
  },
  { value: 'none', title: 'No cutouts', note: '' },
] as const;
const finishedChoices = [
  { value: 'jpeg', title: 'JPEG', note: 'for prints and the web' },
  { value: 'png', title: 'PNG', note: 'without loss; larger' },
  { value: 'none', title: 'No finished pictures', note: '' },
] as const;

/** Handing over: what to write, the progress of writing it, and the ZIP. */
export function DeliverPage() {
  const shoot = useStore((state) => state.shoot);
  const frames = useStore((state) => state.frames);
  const deliveries = useStore((state) => state.deliveries);
  const [settings, setSettings] = useState<DeliverySettings>({ cutout: 'png', finished: 'jpeg', quality: 92 });
  if (!shoot) return null;
  const cut = frames.filter((frame) => frame.cut);
  const placed = cut.filter((frame) => frame.placement);
  const nothing = settings.cutout === 'none' && settings.finished === 'none';
  const files = (settings.cutout === 'none' ? 0 : cut.length) + (settings.finished === 'none' ? 0 : placed.length);
  return (
    <div className="sheet">
      <h1>Deliver {shoot.name}</h1>
      {cut.length === 0 ? (
        <p className="empty">
          <strong>Nothing to deliver yet.</strong>
          <Link to="../cut">Cut the frames</Link> first; finished pictures also need a{' '}
          <Link to="../place">background</Link>.
        </p>
      ) : (
        <>
          <div style={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 36, alignItems: 'start' }}>
            <fieldset className="choices">
              <legend>Cutouts with transparency</legend>
              {cutoutChoices.map(({ value, title, note }) => (
                <label key={value}>
                  <input
                    type="radio"
                    name="cutout"
                    checked={settings.cutout === value}
                    onChange={() => setSettings({ ...settings, cutout: value })}
                  />
                  <span>
                    {title} <span className="quiet">{note}</span>
                  </span>
                </label>
              ))}
            </fieldset>
            <fieldset className="choices">
              <legend>Finished pictures on their backgrounds</legend>
              {finishedChoices.map(({ value, title, note }) => (
                <label key={value}>
                  <input
                    type="radio"
                    name="finished"
                    checked={settings.finished === value}
                    onChange={() => setSettings({ ...settings, finished: value })}
                  />
                  <span>
                    {title} <span className="quiet">{note}</span>
                  </span>
                </label>
              ))}
            </fieldset>
          </div>
          {settings.finished !== 'none' && placed.length < cut.length && (
            <p className="problem">
              <strong>
                {cut.length - placed.length} of {cut.length} people have no background.
              </strong>{' '}
              Their finished pictures are left out. <Link to="../place">Choose their backgrounds</Link>, or deliver
              cutouts only.
            </p>
          )}
          {cut.length < frames.length && (
            <p className="problem">
              <strong>
                {frames.length - cut.length} of {frames.length} frames are not cut
              </strong>{' '}
              and will not be delivered. <Link to="../cut">Cut them</Link>
            </p>
          )}
          {settings.finished === 'jpeg' && (
            <div style={{ display: 'grid', gridTemplateColumns: '170px 260px', alignItems: 'center' }}>
              <span>
                JPEG quality <span className="figure">{settings.quality}</span>
              </span>
              <Slider
                aria-label="JPEG quality"
                min={60}
                max={100}
                step={1}
                marks={[{ value: 92 }]}
                value={settings.quality}
                onChange={(_, value) => setSettings({ ...settings, quality: value as number })}
              />
            </div>
          )}
          <div className="actions">
            <Button
              variant="contained"
              color="primary"
              disabled={nothing}
              onClick={() => void attempt(api.deliver(shoot.id, settings))}
            >
              Make {files} files
            </Button>
            <span className="quiet">
              {nothing
                ? 'Choose cutouts, finished pictures or both.'
                : 'All in one ZIP, with a list of files as CSV. Colours are sRGB with the profile inside.'}
            </span>
          </div>
        </>
      )}
      {deliveries.length > 0 && (
        <section style={{ display: 'grid', gap: 12 }}>
          <h2>Deliveries</h2>
          {deliveries.map((delivery) => (
            <DeliveryRow key={delivery.id} delivery={delivery} />
          ))}
        </section>
      )}
    </div>
  );
}

function DeliveryRow({ delivery }: { delivery: Delivery }) {
  const { batch, settings } = delivery;
  const ended = batch.total - batch.open;
  const what = [
    cutoutChoices.find((c) => c.value === settings.cutout && c.value !== 'none')?.title,
    finishedChoices.find((c) => c.value === settings.finished && c.value !== 'none')?.title,
  ]
    .filter(Boolean)
    .join(' and ');
  return (
    <article
      style={{ borderTop: '1px solid var(--ink)', paddingTop: 8, display: 'grid', gap: 6 }}
      aria-label={`Delivery ${delivery.id}`}
    >
      <div className="actions" style={{ justifyContent: 'space-between' }}>
        <span>
          <strong>{what}</strong>,{' '}
          <span className="figure">
            {new Date(delivery.createdAt).toLocaleString('en-GB', {
              day: 'numeric',
              month: 'long',
              hour: '2-digit',
              minute: '2-digit',
            })}
          </span>
        </span>
        <span className="figure">
          {delivery.files} files, {fileSize(delivery.bytes)}
        </span>
      </div>
      {batch.open > 0 ? (
        <>
          <StepWedge share={ended / batch.total} label="Making files" />
          <div className="actions">
            <span className="figure">
              {ended} of {batch.total} people, {timeLeft(batch.secondsLeft)}
            </span>
            <Button onClick={() => void attempt(api.cancel(batch.id))}>Cancel the rest</Button>
          </div>
        </>
      ) : (
        <div className="actions">
          {delivery.files > 0 && (
            <Button component="a" href={pictures.zip(delivery.id)} download>
              Download the ZIP
            </Button>
          )}
          {batch.cancelled > 0 && <span>{batch.cancelled} cancelled</span>}
        </div>
      )}
      {delivery.leftOut.length > 0 && (
        <p>
          <strong>
            {delivery.leftOut.length === 1
              ? 'One person has no finished picture'
              : `${delivery.leftOut.length} people have no finished picture`}
            ,
          </strong>{' '}
          since nobody has chosen a background for them: {delivery.leftOut.slice(0, 6).join(', ')}
          {delivery.leftOut.length > 6 && ` and ${delivery.leftOut.length - 6} more`}.{' '}
          <Link to="../place">Choose their backgrounds</Link>, then deliver again.
        </p>
      )}
      {grouped(delivery.problems).map(({ reason, remedy, frames }) => (
        <p className="problem" key={reason}>
          <strong>{frames.length === 1 ? frames[0] : `${frames.length} frames`}:</strong> {reason}. {remedy}
          {frames.length > 1 && (
            <span className="quiet">
              {' '}
              {frames.slice(0, 8).join(', ')}
              {frames.length > 8 && ` and ${frames.length - 8} more`}
            </span>
          )}
        </p>
      ))}
    </article>
  );
}

/** What has one reason is told once. */
function grouped(problems: Delivery['problems']): { reason: string; remedy: string; frames: string[] }[] {
  const groups = new Map<string, { reason: string; remedy: string; frames: string[] }>();
  for (const { reason, remedy, frame } of problems) {
    const group = groups.get(reason) ?? { reason, remedy, frames: [] };
    group.frames.push(frame);
    groups.set(reason, group);
  }
  return [...groups.values()].sort((a, b) => b.frames.length - a.frames.length);
}

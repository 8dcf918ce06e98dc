import {
  DndContext,
  DragOverlay,
  PointerSensor,
  pointerWithin,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { Chip, Paper } from '@mui/material';
import { useState, type ReactNode } from 'react';
import type { Setup } from '../../../contract/index.ts';
import { counted } from '../../shared/format.ts';

/** Pixels; less is a press with an unsteady hand. */
const LEAST_WAY = 8;
const NEW = 'new';

/** Lets chosen frames within be dragged to a setup, or to one that is made for them. */
export function CarryFrames({
  count,
  setups,
  onMove,
  children,
}: {
  /** So many frames go together. */
  count: number;
  setups: readonly Setup[];
  onMove: (to: number | null) => void;
  children: ReactNode;
}) {
  const [carrying, setCarrying] = useState(false);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: LEAST_WAY } }));
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={pointerWithin}
      autoScroll={false}
      onDragStart={() => setCarrying(true)}
      onDragCancel={() => setCarrying(false)}
      onDragEnd={({ over }) => {
        setCarrying(false);
        if (over) onMove(over.id === NEW ? null : Number(over.id));
      }}
    >
      {children}
      {carrying && (
        <Paper
          elevation={4}
          role="group"
          aria-label="Setups to drop on"
          sx={{
            ...{ position: 'fixed', top: 72, left: '50%', transform: 'translateX(-50%)', zIndex: 'tooltip' },
            ...{ display: 'flex', flexWrap: 'wrap', gap: 1, p: 1.5, maxWidth: '90vw' },
          }}
        >
          {setups.map(({ id, name }) => (
            <Target key={id} id={`${id}`} title={name} />
          ))}
          <Target id={NEW} title="a new setup" />
        </Paper>
      )}
      <DragOverlay dropAnimation={null}>
        {carrying && <Chip color="primary" sx={{ borderRadius: 0 }} label={counted(count, 'frame')} />}
      </DragOverlay>
    </DndContext>
  );
}

function Target({ id, title }: { id: string; title: string }) {
  const { setNodeRef, isOver } = useDroppable({ id });
  return (
    <Chip
      ref={setNodeRef}
      label={title}
      color={isOver ? 'primary' : 'default'}
      sx={{ height: 44, px: 1.5, borderRadius: 0 }}
    />
  );
}

/** A frame that can be dragged once it is chosen; keys do the same by the setup’s list. */
export function Carried({ id, chosen, children }: { id: number; chosen: boolean; children: ReactNode }) {
  const { setNodeRef, listeners } = useDraggable({ id, disabled: !chosen });
  return (
    <div ref={setNodeRef} {...listeners}>
      {children}
    </div>
  );
}

import { useMemo } from 'react';
import { ReadingMargin } from '../../shared/layout.tsx';
import { Panel, PanelTabs } from '../../shared/Panels.tsx';
import { useStore } from '../../state/store.ts';
import { byCardOf } from './byCard.ts';
import { DoubtsPanel } from './DoubtsPanel.tsx';
import { LedgerPanel } from './LedgerPanel.tsx';
import { MasksPanel } from './MasksPanel.tsx';
import { Questions } from './Questions.tsx';
import { SettingsHead } from './SettingsHead.tsx';
import { TouchesPanel } from './TouchesPanel.tsx';
import { panels, type FrameBench } from './useFrameBench.ts';

/** What can be asked and said about the cut of the frame on the bench. */
export function FramePanels({ bench }: { bench: FrameBench }) {
  const { frame, setup, panel, quality, ledger } = bench;
  const checks = useStore((state) => state.checks);
  const byCard = useMemo(() => byCardOf(checks, setup.id), [checks, setup.id]);
  return (
    <ReadingMargin aria-label="Settings and readings" sx={{ pt: 0 }}>
      <PanelTabs
        label="Panels"
        panels={panels}
        value={panel}
        figures={{
          touches: frame.guidance.touches.length || undefined,
          ledger: ledger.length || undefined,
          doubts: quality?.doubts.length || undefined,
        }}
        onChange={bench.open}
      />
      <Panel id={panel}>
        {panel === 'settings' && (
          <>
            <SettingsHead bench={bench} />
            <Questions
              recipe={bench.recipe}
              coverage={bench.preview.coverage}
              onChange={bench.try}
              onSizing={bench.setSizing}
              onCommit={bench.keep}
              byCard={byCard}
            />
          </>
        )}
        {panel === 'ledger' && (
          <LedgerPanel frame={frame} ledger={ledger} chosen={bench.patch} onChoose={bench.choose} />
        )}
        {panel === 'masks' && (
          <MasksPanel
            setup={setup}
            frame={frame}
            frames={bench.setupFrames}
            drawing={bench.drawing}
            onDraw={bench.draw}
            gestures={bench.gestures}
            onGo={bench.go}
          />
        )}
        {panel === 'touches' && (
          <TouchesPanel
            frame={frame}
            brush={bench.brush}
            onHold={bench.hold}
            idle={(bench.asShown ? frame.cut?.quality.idle : undefined) ?? bench.preview.idle}
          />
        )}
        {panel === 'doubts' && quality && (
          <DoubtsPanel frame={frame} quality={quality} looking={bench.looking} onLook={bench.look} />
        )}
      </Panel>
    </ReadingMargin>
  );
}

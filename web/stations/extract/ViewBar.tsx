import CompareIcon from '@mui/icons-material/CompareOutlined';
import ValuesIcon from '@mui/icons-material/ColorizeOutlined';
import { Box, IconButton, ToggleButton, ToggleButtonGroup, Tooltip } from '@mui/material';
import { Choice } from '../../shared/Choice.tsx';
import { Strip } from '../../shared/layout.tsx';
import { ViewStrip } from '../../shared/ViewStrip.tsx';
import type { PreviewView } from '../../worker/picture.worker.ts';
import { JudgedOn } from './JudgedOn.tsx';
import type { FrameBench } from './useFrameBench.ts';
import { allViews, mainViews, sideViews } from './views.ts';

/** The ways to look at a frame: one view, or two; and the values under the pointer. */
export function ViewBar({ bench }: { bench: FrameBench }) {
  const { frame, judged, shown, beside, setBeside } = bench;
  const side = sideViews.find(({ value }) => value === shown);
  const toggle = (on: boolean, title: string, name: string, icon: React.ReactNode, press: () => void) => (
    <Tooltip title={title} describeChild>
      <IconButton
        aria-label={name}
        aria-pressed={on}
        onClick={press}
        sx={{ borderBottom: '3px solid', borderColor: on ? 'primary.main' : 'transparent', borderRadius: 0, p: 0.25 }}
      >
        {icon}
      </IconButton>
    </Tooltip>
  );
  return (
    <div>
      <Strip
        sx={{
          pr: 0.5,
          '& .MuiToggleButtonGroup-root': { flexWrap: 'nowrap' },
          '& .MuiToggleButton-root': { px: '7px', whiteSpace: 'nowrap' },
        }}
      >
        <ViewStrip
          label="View"
          views={mainViews.map((one) =>
            one.value === 'background' && !judged.placement
              ? { ...one, why: 'Bring a background into the library at Place first.' }
              : one,
          )}
          value={shown}
          onChange={bench.setView}
        />
        <Box sx={{ ml: 'auto', display: 'flex', alignItems: 'center', '& .MuiNativeSelect-select': { width: 68 } }}>
          <Choice
            aria="Other views"
            value={side?.value ?? ''}
            options={[...(side ? [] : [{ value: '', title: 'Other' }]), ...sideViews]}
            onChange={(view) => bench.setView(view as PreviewView)}
          />
          {toggle(bench.values, 'Colour, coverage and a loupe under the pointer. Key V', 'Values', <ValuesIcon />, () =>
            bench.setValues(!bench.values),
          )}
          {toggle(
            beside !== undefined,
            'A second view beside this one. Key D',
            'Two views',
            <CompareIcon />,
            bench.toggleBeside,
          )}
        </Box>
      </Strip>
      {side && (
        <Strip>
          <span className="quiet">{side.words}</span>
        </Strip>
      )}
      {(shown === 'background' || beside?.view === 'background') && judged.placement && (
        <JudgedOn frame={frame} judged={judged} judgeOn={bench.judgeOn} />
      )}
      {beside && (
        <Strip sx={{ gap: 1.5 }}>
          <Choice
            aria="Second view"
            value={beside.view}
            options={allViews.filter(({ value }) => value !== 'background' || judged.placement)}
            onChange={(view) => setBeside({ ...beside, view: view as PreviewView })}
          />
          <ToggleButtonGroup
            exclusive
            value={beside.how}
            onChange={(_, how: typeof beside.how | null) => how && setBeside({ ...beside, how })}
            aria-label="Two views"
          >
            <ToggleButton value="divided">with a divider</ToggleButton>
            <ToggleButton value="above">one above the other</ToggleButton>
          </ToggleButtonGroup>
        </Strip>
      )}
    </div>
  );
}

import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material';
import { Fragment } from 'react';
import { useLocation } from 'react-router';
import { create } from 'zustand';
import { keyPlaces, keyTable, useKeys, type KeyFacts, type KeyPlace } from '../shared/keys.ts';
import { Fields, Key } from '../shared/layout.tsx';

const useHelp = create<{ open: boolean }>(() => ({ open: false }));

export function showKeys(open = true): void {
  useHelp.setState({ open });
}

/** The keys of the station one is at, and those that hold everywhere; opened by `?`. */
export function KeysHelp() {
  const { open } = useHelp();
  const { pathname } = useLocation();
  useKeys('everywhere', { help: () => showKeys() });
  const station = /\/shoots\/\d+\/(\w+)/.exec(pathname)?.[1];
  const places = (Object.keys(keyTable) as KeyPlace[]).filter(
    (place) =>
      place === station ||
      (place === 'mask' && station === 'extract') ||
      (place === 'look' && station === 'gather') ||
      place === 'everywhere',
  );
  return (
    <Dialog open={open} onClose={() => showKeys(false)} aria-labelledby="keys">
      <DialogTitle id="keys">Keys</DialogTitle>
      <DialogContent sx={{ minWidth: 380, display: 'grid', gap: 1.5 }}>
        {places
          .sort((a, b) => Number(a === 'everywhere') - Number(b === 'everywhere'))
          .map((place) => (
            <section key={place} aria-label={keyPlaces[place]}>
              <h2>{keyPlaces[place]}</h2>
              <Fields sx={{ gridTemplateColumns: '110px 1fr', '& > dd': { textAlign: 'left' } }}>
                {(Object.values(keyTable[place]) as KeyFacts[]).map(({ shown, does }) => (
                  <Fragment key={shown + does}>
                    <dt>
                      <Key>{shown}</Key>
                    </dt>
                    <dd>{does}</dd>
                  </Fragment>
                ))}
              </Fields>
            </section>
          ))}
      </DialogContent>
      <DialogActions>
        <Button onClick={() => showKeys(false)}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}

import { styled } from '@mui/material';

/** The bench of Check and Rehearsal: wider readings, and room for captions beside the photograph. */
export const CheckBench = styled('div')`
  height: 100%;
  display: grid;
  grid-template-columns: 252px minmax(0, 1fr) 330px;
  min-height: 0;
  &.over section {
    outline: 3px solid var(--accent);
    outline-offset: -3px;
  }
  @media (max-width: 1150px) {
    grid-template-columns: 216px minmax(0, 1fr) 280px;
  }
  @media (max-width: 860px) {
    height: auto;
    grid-template-columns: 216px minmax(0, 1fr);
    grid-template-rows: 62vh auto;
    & > section {
      order: -1;
      grid-column: 1 / -1;
    }
  }
`;

/** Where a photograph or a map stands. */
export const CheckStage = styled('div')`
  position: relative;
  min-height: 0;
  min-width: 0;
  display: grid;
  grid-template: minmax(0, 1fr) / minmax(0, 1fr);
  place-items: center;
  padding: 14px;
  overflow: hidden;
  & > * {
    grid-area: 1 / 1;
  }
  & > .over {
    position: absolute;
    left: 14px;
    right: 14px;
    top: 12px;
    z-index: 1;
    display: grid;
    gap: 6px;
  }
  & > .under-way {
    position: absolute;
    left: 14px;
    bottom: 12px;
    z-index: 1;
    min-width: 300px;
    background: var(--sheet);
    padding: 5px 10px;
  }
  & .lawn {
    max-width: 100%;
    max-height: 100%;
    height: 100%;
  }
`;

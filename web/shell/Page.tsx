import { styled } from '@mui/material';

/** A page: its head, and below it a sheet that scrolls by itself. */
export const Page = styled('div')`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  grid-template-rows: auto 1fr;
  height: 100%;
  & > header {
    background: var(--sheet);
    border-bottom: 1px solid var(--ink);
  }
  & > main {
    min-height: 0;
    overflow: auto;
  }
  @media print {
    display: block;
    height: auto;
    & > header {
      display: none;
    }
    & > main {
      overflow: visible;
    }
  }
`;

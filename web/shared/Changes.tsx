import { styled } from '@mui/material';

/** Changes in three columns: what, by how much, what to do about it. */
export const Changes = styled('ul')`
  list-style: none;
  & > li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto auto;
    gap: 8px;
    align-items: baseline;
    border-top: 1px solid var(--hairline);
    padding: 2px 0;
  }
  & .MuiButton-root {
    padding: 0 4px;
  }
`;

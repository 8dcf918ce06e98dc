import { styled } from '@mui/material';

/** Minutes by hand, large, above what they come from. */
export const Headline = styled('div')`
  padding-bottom: 4px;
  & .big {
    font-size: 26px;
    font-weight: 640;
  }
`;

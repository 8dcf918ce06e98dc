import { Box } from '@mui/material';

/** While a page is on its way. */
export function Waiting() {
  return (
    <Box className="quiet" role="status" sx={{ p: 3 }}>
      Opening …
    </Box>
  );
}

import { Box, Table, TableBody, TableCell, TableHead, TableRow } from '@mui/material';
import type { Report } from '../../../core/plan/index.ts';

/** What to bring, what it costs and weighs. */
export function KitPanel({ report: { kit, circuits } }: { report: Report }) {
  return (
    <section aria-label="Kit">
      <p>
        Cost <strong className="figure">{kit.cost.toFixed(0)}</strong> for this shoot,{' '}
        <span className="figure">{kit.mass.toFixed(0)} kg</span> to carry, set up in{' '}
        <span className="figure">{kit.setUpMinutes.toFixed(0)} min</span>, packed in{' '}
        <span className="figure">{kit.packDownMinutes.toFixed(0)} min</span>.
      </p>
      <Table size="small">
        <TableHead>
          <TableRow>
            <TableCell>item</TableCell>
            <TableCell>supply</TableCell>
            <TableCell align="right">kg</TableCell>
            <TableCell align="right">cost</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {kit.items.map((item, n) => (
            <TableRow key={n}>
              <TableCell>{item.count > 1 ? `${item.count} × ${item.name}` : item.name}</TableCell>
              <TableCell>{item.supply}</TableCell>
              <TableCell align="right" className="figure">
                {item.mass.toFixed(1)}
              </TableCell>
              <TableCell align="right" className="figure">
                {item.cost.toFixed(1)}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      <Box component="h2" sx={{ pt: 1.25 }}>
        Circuits
      </Box>
      {circuits.map((circuit) => (
        <p key={circuit.name}>
          {circuit.name}: <span className="figure">{circuit.watts.toFixed(0)}</span> of{' '}
          <span className="figure">{circuit.rating.toFixed(0)} W</span>
          {circuit.load > 0.8 && <strong> – more than four fifths</strong>}
        </p>
      ))}
    </section>
  );
}

import AddIcon from '@mui/icons-material/Add';
import CloseIcon from '@mui/icons-material/Close';
import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, IconButton, TextField } from '@mui/material';
import { DataGrid, GridActionsCellItem, type GridColDef } from '@mui/x-data-grid';
import { guestFacts, type Plan } from '../../../core/plan/index.ts';
import { takeNumber } from '../../shared/takeNumber.ts';

type Guest = Plan['event']['roster'][number];
interface Row extends Guest {
  id: number;
}

const NEW_COLOUR = '808080';
const MOST_COLOURS = 12;

/** Who comes and in what colours, as a table that is edited in place. */
export function RosterDialog({
  open,
  roster,
  onChange,
  onClose,
}: {
  open: boolean;
  roster: Guest[];
  onChange: (roster: Guest[]) => void;
  onClose: () => void;
}) {
  const put = (n: number, part: Partial<Guest>): void =>
    onChange(roster.map((guest, k) => (k === n ? { ...guest, ...part } : guest)));
  const { people } = guestFacts;
  const columns: GridColDef<Row>[] = [
    { field: 'name', headerName: 'Who', flex: 1, editable: true },
    {
      field: 'people',
      headerName: people.label,
      width: 90,
      editable: true,
      align: 'right',
      headerAlign: 'right',
      valueParser: (text) => Math.round(takeNumber(String(text), people.min, people.max).value ?? 1),
    },
    {
      field: 'colours',
      headerName: 'Wear',
      flex: 1,
      sortable: false,
      renderCell: ({ row }) => <Colours guest={row} onChange={(colours) => put(row.id, { colours })} />,
    },
    {
      field: 'actions',
      type: 'actions',
      width: 46,
      getActions: ({ row }) => [
        <GridActionsCellItem
          key="remove"
          icon={<DeleteIcon />}
          label={`Remove ${row.name}`}
          onClick={() => onChange(roster.filter((_, k) => k !== row.id))}
        />,
      ],
    },
  ];
  return (
    <Dialog open={open} onClose={onClose} fullWidth maxWidth="md" aria-labelledby="roster">
      <DialogTitle id="roster">Who comes, and in what colours</DialogTitle>
      <DialogContent>
        <p className="quiet">Press Enter on a cell to change it. Colours near the screen’s are told in the forecast.</p>
        <Box sx={{ height: 380, mt: 1 }}>
          <DataGrid
            rows={roster.map((guest, id) => ({ ...guest, id }))}
            columns={columns}
            hideFooter
            processRowUpdate={({ id, name, people: count }) => {
              const guest = { ...roster[id], name: name.trim().slice(0, 120) || roster[id].name, people: count };
              put(id, guest);
              return { ...guest, id };
            }}
            localeText={{ noRowsLabel: 'Nobody is listed yet.' }}
          />
        </Box>
      </DialogContent>
      <DialogActions>
        <Button
          startIcon={<AddIcon />}
          onClick={() =>
            onChange([...roster, { name: `Guests ${roster.length + 1}`, colours: [NEW_COLOUR], people: 10 }])
          }
        >
          Add guests
        </Button>
        <Button variant="text" onClick={onClose}>
          Done
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function Colours({ guest, onChange }: { guest: Guest; onChange: (colours: string[]) => void }) {
  const { colours, name } = guest;
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', height: '100%' }}>
      {colours.map((colour, n) => (
        <Box key={n} sx={{ display: 'flex', alignItems: 'center' }}>
          <TextField
            type="color"
            value={`#${colour}`}
            slotProps={{ htmlInput: { 'aria-label': `Colour ${n + 1} of ${name}`, style: { width: 26, height: 20 } } }}
            onChange={(event) => onChange(colours.map((c, k) => (k === n ? event.target.value.slice(1) : c)))}
          />
          <IconButton
            aria-label={`Remove colour ${n + 1} of ${name}`}
            sx={{ p: 0, fontSize: 13 }}
            onClick={() => onChange(colours.filter((_, k) => k !== n))}
          >
            <CloseIcon sx={{ fontSize: 13 }} />
          </IconButton>
        </Box>
      ))}
      {colours.length < MOST_COLOURS && (
        <IconButton aria-label={`Add a colour to ${name}`} onClick={() => onChange([...colours, NEW_COLOUR])}>
          <AddIcon />
        </IconButton>
      )}
    </Box>
  );
}

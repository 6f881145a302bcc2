import { Box, Button } from '@mui/material';
import useSWR from 'swr';
import { post, type Api } from '../../data/http';
import { CAPTION, INK } from '../../theme/theme';

/** The demo's cards that lie on the table: put one into the simulated reader, or take it out. */
export function StandInCards({ readers }: { readers: Api['ReaderDto'][] }) {
  const { data: cards } = useSWR<string[]>('/stand-ins/cards');
  const inside = new Set(readers.map((r) => r.card));
  const free = readers.find((r) => r.kind === 'stand-in' && !r.card);
  const lying = cards?.filter((card) => !inside.has(card)) ?? [];
  return (
    <Box sx={{ ...CAPTION, display: 'flex', gap: 2, alignItems: 'center', mt: 1, color: INK.faint }}>
      Simulated reader:
      {lying.map((card) => (
        <Button
          key={card}
          size="small"
          color="inherit"
          disabled={!free}
          onClick={() => free && void post(`/stand-ins/slots/${free.id}/insert`, { card })}
        >
          Insert {card}
        </Button>
      ))}
      {readers
        .filter((r) => r.kind === 'stand-in' && r.card)
        .map((r) => (
          <Button key={r.id} size="small" color="inherit" onClick={() => void post(`/readers/${r.id}/eject`)}>
            Eject {r.card}
          </Button>
        ))}
    </Box>
  );
}

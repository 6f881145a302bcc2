import { Box } from '@mui/material';
import { shownName } from '@arkiv/core';
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { Link } from 'react-router';
import { weekDay } from '../../data/format';
import { numberOf } from '../../data/frames';
import type { Api } from '../../data/http';
import { useGet } from '../../data/useGet';
import { LeadStrip } from '../../parts/LeadStrip';
import { CAPTION, GROUND, INK } from '../../theme/theme';
import { Decided } from '../desk/ShootRow';
import { frameAtX, windowOf } from './skim';

const PLACES = 6;

/**
 * A shoot with its strip of leads. The pointer over the strip, or left and right, goes through its frames; a click or Enter opens the
 * one that is shown.
 */
export function ShootLine({ shoot }: { shoot: Api['ShootDto'] }) {
  const [wanted, setWanted] = useState(false);
  /** how far along the strip the pointer is; null: it is not over it */
  const [share, setShare] = useState<number | null>(null);
  /** the frame that keys have gone to; null: to none */
  const [gone, setGone] = useState<number | null>(null);
  const strip = useRef<HTMLDivElement>(null);
  const { data: frames } = useGet(wanted ? `/shoots/${shoot.id}/skim` : null);
  const length = frames?.length ?? 0;
  const place =
    length === 0
      ? -1
      : share !== null
        ? frameAtX(share, length)
        : gone === null
          ? -1
          : Math.min(gone, length - 1);
  const shown = frames?.[place];
  const over = (event: PointerEvent): void => {
    if (event.pointerType === 'touch') return;
    setWanted(true);
    const { left, width } = strip.current!.getBoundingClientRect();
    setShare((event.clientX - left) / width);
  };
  const onKeyDown = (event: KeyboardEvent): void => {
    const by = { ArrowRight: 1, ArrowLeft: -1, PageDown: PLACES, PageUp: -PLACES }[event.key];
    if (event.key === 'Escape' && gone !== null) setGone(null);
    else if (event.ctrlKey || event.altKey || event.metaKey || by === undefined) return;
    else {
      setWanted(true);
      setGone((now) => Math.max(0, Math.min(Math.max(0, length - 1), now === null ? 0 : now + by)));
    }
    event.preventDefault();
  };
  const around = windowOf(place, length, PLACES);
  return (
    <Box
      component={Link}
      data-shoot
      to={`/shoots/${shoot.id}/cull${shown ? `?view=single&frame=${shown.id}` : ''}`}
      onKeyDown={onKeyDown}
      onBlur={() => setGone(null)}
      sx={{
        display: 'flex',
        flexWrap: 'wrap',
        gap: { xs: 1, lg: 2.5 },
        alignItems: 'center',
        py: 1,
        color: 'inherit',
        textDecoration: 'none',
        borderBottom: `1px solid ${GROUND.raised}`,
        '&:hover': { bgcolor: GROUND.raised },
      }}
    >
      <Box sx={{ ...CAPTION, width: 58, flex: 'none', color: INK.soft }}>{weekDay(shoot.date)}</Box>
      <div
        ref={strip}
        data-testid="strip"
        onPointerMove={over}
        onPointerEnter={over}
        // A click opens what is under it, however quick it comes.
        onPointerDown={over}
        onPointerLeave={() => setShare(null)}
        style={{ maxWidth: '100%' }}
      >
        {shown ? (
          <LeadStrip
            leads={around.map((i) => frames![i]!.picture)}
            height={72}
            places={PLACES}
            chosen={around.indexOf(place)}
          />
        ) : (
          <LeadStrip leads={shoot.leads} height={72} places={PLACES} />
        )}
      </div>
      <Box sx={{ minWidth: 0, flex: '1 1 200px' }}>
        <Box sx={{ fontWeight: 640, fontSize: 16 }}>{shownName(shoot.title)}</Box>
        <Box sx={{ ...CAPTION, color: INK.soft }}>
          {[shoot.client, shoot.place].filter(Boolean).join(' · ') || ' '}
        </Box>
        {shown ? (
          <Box role="status" sx={{ ...CAPTION, color: INK.full }}>
            {numberOf(shown.name)}
            {shown.time && ` · ${shown.time.slice(11, 19)}`} · Enter or a click opens it
          </Box>
        ) : (
          <Decided shoot={shoot} />
        )}
      </Box>
    </Box>
  );
}

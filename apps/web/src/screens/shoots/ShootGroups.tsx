import { Box, ButtonBase, Typography } from '@mui/material';
import { foldText, shownName } from '@arkiv/core';
import { useMemo } from 'react';
import { many } from '../../data/format';
import { useGet } from '../../data/useGet';
import { Loading } from '../../parts/Loading';
import { Problem } from '../../parts/Problem';
import { useKeptState } from '../../parts/useKeptState';
import { GROUND, INK } from '../../theme/theme';
import { ShootList } from './ShootList';
import { walkShoots } from './walkShoots';

const NONE = { client: 'No client is named', place: 'No place is named' };

/** All clients, or all places, each with all its shoots under it. */
export function ShootGroups({ by, find }: { by: 'client' | 'place'; find: string }) {
  const { data: groups, error } = useGet(`/shoots/groups?by=${by}`);
  const [open, setOpen] = useKeptState<string[]>(`shoots.${by}`, []);
  const shown = useMemo(() => {
    const wanted = foldText(find);
    return groups?.filter(({ name }) => foldText(name).includes(wanted)) ?? [];
  }, [groups, find]);
  return (
    <Box onKeyDown={walkShoots}>
      <Problem error={error} />
      {!groups && !error && <Loading what={by === 'client' ? 'the clients' : 'the places'} />}
      {groups && shown.length === 0 && (
        <Typography sx={{ color: 'text.secondary' }}>
          {find === '' ? 'No shoot is there yet.' : `None of ${groups.length} has “${find}” in its name.`}
        </Typography>
      )}
      {shown.map(({ name, shoots, frames, first, last }) => {
        const isOpen = open.includes(name);
        const years = [...new Set([first.slice(0, 4), last.slice(0, 4)])].join('–');
        return (
          <Box component="section" key={name} sx={{ mb: isOpen ? 3 : 0 }}>
            <Box
              sx={{
                ...{ display: 'flex', alignItems: 'baseline', gap: 2 },
                borderTop: `1px solid ${GROUND.line}`,
              }}
            >
              <Typography variant="h2" component="h2" sx={{ flex: 1, minWidth: 0 }}>
                <ButtonBase
                  aria-expanded={isOpen}
                  onClick={() =>
                    setOpen((now) => (isOpen ? now.filter((one) => one !== name) : [...now, name]))
                  }
                  sx={{ font: 'inherit', width: '100%', justifyContent: 'flex-start', gap: 1, py: 0.75 }}
                >
                  <Box component="span" aria-hidden sx={{ width: 12, color: INK.soft }}>
                    {isOpen ? '▾' : '▸'}
                  </Box>
                  <Box component="span" sx={{ color: name === '' ? INK.soft : undefined }}>
                    {name === '' ? NONE[by] : shownName(name)}
                  </Box>
                </ButtonBase>
              </Typography>
              <Box sx={{ color: INK.faint }}>
                {years} · {many(shoots, 'shoot')} · {many(frames, 'frame')}
              </Box>
            </Box>
            {isOpen && <ShootList shown={{ [by]: name }} />}
          </Box>
        );
      })}
    </Box>
  );
}

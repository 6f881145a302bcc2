import { formatWords } from '@arkiv/core';
import { Box, Button } from '@mui/material';
import { bytes } from '../../data/format';
import { placeholderOf, previewUrl } from '../../data/frames';
import { post, type Api } from '../../data/http';
import { usePiles } from '../../data/live';
import { LabelTab, Stars } from '../../parts/Marks';
import { Problem } from '../../parts/Problem';
import { TextLink } from '../../parts/TextLink';
import { useAction } from '../../parts/useAction';
import { CAPTION, GROUND, INK } from '../../theme/theme';
import { usesOf } from './uses';

/** One picture, in all the ways that it is there: side by side, with what each is. */
export function VariantGroup({ group, onDone }: { group: Api['VariantGroupDto']; onDone: () => void }) {
  const { frames, ofShoots } = group;
  const shoots = new Map(frames.map(({ shootId, shoot }) => [shootId, shoot]));
  const { run, busy, error, again } = useAction(async (frameIds: string[]) => {
    await post('/duplicates/variants/together', { frameIds });
    onDone();
  });
  return (
    <Box
      component="article"
      aria-label={`${frames.length} variants of ${frames[0]!.name}`}
      sx={{ p: 1.5, mb: 1.5, bgcolor: GROUND.raised, border: `1px solid ${GROUND.line}` }}
    >
      <Box
        role="list"
        sx={{ display: 'grid', gap: 2, gridTemplateColumns: 'repeat(auto-fill, minmax(200px, 1fr))' }}
      >
        {frames.map((frame) => (
          <Variant key={frame.id} frame={frame} />
        ))}
      </Box>
      <Problem error={error} again={again} />
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, mt: 1.5, color: INK.soft }}>
        {shoots.size > 1 && <Box>In {shoots.size} shoots: each stays where it is.</Box>}
        {ofShoots.map(({ shootId, frameIds, together }) => {
          const which = shoots.size > 1 ? ` of ${shoots.get(shootId)}` : '';
          return together ? (
            <Box key={shootId}>Those{which} are one take in Cull; each stays.</Box>
          ) : (
            <Button
              key={shootId}
              {...{ size: 'small', variant: 'outlined', color: 'inherit', disabled: busy }}
              onClick={() => run(frameIds)}
            >
              {`Keep all${which}, as one take`}
            </Button>
          );
        })}
        {ofShoots.some(({ together }) => !together) && (
          <Box sx={CAPTION}>In Cull they fold to one; Ctrl Z there takes it back.</Box>
        )}
      </Box>
    </Box>
  );
}

function Variant({ frame }: { frame: Api['VariantFrameDto'] }) {
  const { data: piles = [] } = usePiles();
  const size = frame.width && frame.height ? `${frame.width} × ${frame.height}` : 'size not known';
  return (
    <Box role="listitem" sx={{ minWidth: 0 }}>
      <Box sx={{ display: 'grid', placeItems: 'center', height: 150, mb: 1, bgcolor: GROUND.deep }}>
        {frame.picture ? (
          <img
            src={previewUrl(frame.picture, 'thumb')}
            alt=""
            style={{ maxWidth: '100%', maxHeight: 150, display: 'block' }}
          />
        ) : (
          placeholderOf(frame)
        )}
      </Box>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
        <TextLink to={`/shoots/${frame.shootId}/cull?frame=${frame.id}`}>{frame.name}</TextLink>
        <Box sx={{ flex: 1 }} />
        {frame.verdict !== 'undecided' && <Box sx={CAPTION}>{frame.verdict}</Box>}
        <Stars stars={frame.stars} />
        {frame.label && <LabelTab label={frame.label} />}
      </Box>
      <Box sx={{ color: INK.soft }} title={frame.folder}>
        {frame.shoot}
      </Box>
      <Box sx={{ ...CAPTION, color: INK.soft }}>
        {[size, formatWords(frame.format), bytes(frame.bytes)].join(' · ')}
      </Box>
      <Box sx={{ ...CAPTION, color: INK.soft }}>
        {[`from ${frame.original}`, ...usesOf(frame, piles)].join(' · ')}
      </Box>
    </Box>
  );
}

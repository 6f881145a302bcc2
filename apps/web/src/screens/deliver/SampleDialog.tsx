import { Box, Button, DialogActions, DialogContent } from '@mui/material';
import type { OutputSpec } from '@arkiv/core';
import { useEffect, useMemo, useRef, useState, type RefObject } from 'react';
import useSWR from 'swr';
import { bytes } from '../../data/format';
import { previewUrl } from '../../data/frames';
import { post } from '../../data/http';
import { Loading } from '../../parts/Loading';
import { Problem } from '../../parts/Problem';
import { WideDialog } from '../../parts/WideDialog';
import { CAPTION, GROUND, INK } from '../../theme/theme';

/** One keeper as it would be made, beside the picture that it is made of, each of its pixels on one of the screen's. */
export function SampleDialog(props: {
  shootId: string;
  volumeId: string;
  specs: readonly OutputSpec[];
  /** which of the keepers go */
  line: string;
  onClose: () => void;
}) {
  const { shootId, volumeId, line, onClose } = props;
  const specs = props.specs.filter(({ format }) => format !== 'asis');
  const [at, setAt] = useState(0);
  const spec = specs[Math.min(at, specs.length - 1)]!;
  const { data, error } = useSWR(['/sample', shootId, line, JSON.stringify(spec)], () =>
    post(`/shoots/${shootId}/deliveries/sample`, { name: 'sample', volumeId, line, specs: [spec] }),
  );
  const sample = data?.sample ?? null;
  const url = useMemo(() => (sample ? URL.createObjectURL(blobOf(sample)) : null), [sample]);
  useEffect(() => () => void (url && URL.revokeObjectURL(url)), [url]);
  const [left, right] = [useRef<HTMLDivElement>(null), useRef<HTMLDivElement>(null)];
  return (
    <WideDialog title="One of them at 100 %" width={1240} onClose={onClose}>
      <DialogContent
        sx={{ display: 'grid', gridTemplateRows: 'auto minmax(0, 1fr)', gap: 1, overflow: 'hidden' }}
      >
        <Box role="group" aria-label="By which spec" sx={{ display: 'flex', gap: 1, minHeight: 32 }}>
          {specs.length > 1 &&
            specs.map((one, i) => (
              <Button
                key={one.name}
                size="small"
                color="inherit"
                aria-pressed={one === spec}
                onClick={() => setAt(i)}
                variant={one === spec ? 'outlined' : 'text'}
              >
                {one.name}
              </Button>
            ))}
        </Box>
        <Problem error={error} />
        {!data && !error && <Loading what="one of them" />}
        {data && !sample && <Box>There is no keeper of which a picture could be made.</Box>}
        {sample && url && (
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5, minHeight: 0 }}>
            <Part
              box={left}
              other={right}
              src={previewUrl(sample.from.picture, 'full')}
              size={sample.from}
              words={`as it is here: ${sample.from.width} × ${sample.from.height}`}
            />
            <Part
              box={right}
              other={left}
              src={url}
              size={sample}
              words={`${sample.name}: ${sample.width} × ${sample.height}, ${bytes(sample.bytes)}`}
            />
          </Box>
        )}
      </DialogContent>
      <DialogActions>
        <Box sx={{ ...CAPTION, color: INK.soft, flex: 1, pl: 2 }}>
          Scroll one: the other shows the same place. Nothing has been written yet.
        </Box>
        <Button color="inherit" onClick={onClose}>
          Close
        </Button>
      </DialogActions>
    </WideDialog>
  );
}

/** A picture of which each pixel is one of the screen's; scrolled, its neighbour goes to the same place of its own. */
function Part(props: {
  box: RefObject<HTMLDivElement | null>;
  other: RefObject<HTMLDivElement | null>;
  src: string;
  size: { width: number; height: number };
  words: string;
}) {
  const { box, other, src, size, words } = props;
  const scale = 1 / window.devicePixelRatio;
  useEffect(() => {
    const its = box.current;
    // Its middle first: there is what a picture is about.
    if (its) its.scrollTo((its.scrollWidth - its.clientWidth) / 2, (its.scrollHeight - its.clientHeight) / 2);
  }, [box, src]);
  const follow = () => {
    const [one, two] = [box.current, other.current];
    if (!one || !two || document.activeElement === two || two.matches(':hover')) return;
    const share = (at: number, all: number) => (all > 0 ? at / all : 0);
    two.scrollTo(
      share(one.scrollLeft, one.scrollWidth - one.clientWidth) * (two.scrollWidth - two.clientWidth),
      share(one.scrollTop, one.scrollHeight - one.clientHeight) * (two.scrollHeight - two.clientHeight),
    );
  };
  return (
    <Box
      component="figure"
      sx={{ m: 0, display: 'grid', gridTemplateRows: 'minmax(0, 1fr) auto', minHeight: 0, minWidth: 0 }}
    >
      <Box
        ref={box}
        tabIndex={0}
        role="group"
        aria-label={words}
        onScroll={follow}
        sx={{ overflow: 'auto', bgcolor: GROUND.deep, display: 'grid' }}
      >
        <img
          src={src}
          alt=""
          style={{ width: size.width * scale, height: size.height * scale, margin: 'auto', maxWidth: 'none' }}
        />
      </Box>
      <Box component="figcaption" sx={{ ...CAPTION, color: INK.soft, pt: 0.5 }}>
        {words}
      </Box>
    </Box>
  );
}

function blobOf({ data, type }: { data: string; type: string }): Blob {
  const text = atob(data);
  return new Blob([Uint8Array.from(text, (letter) => letter.charCodeAt(0))], { type });
}

import { useCallback, useMemo } from 'react';
import { useNavigate } from 'react-router';
import { numberOf, placeholderOf, previewUrl } from '../data/frames';
import type { Api } from '../data/http';
import { ContactSheet } from './ContactSheet';
import { SheetCell } from './SheetCell';
import { sheetList } from './sheetRows';
import { useSheetWalk } from './useSheetWalk';

interface Props {
  label: string;
  frames: readonly Api['PlacedFrameDto'][];
  /** what a frame stands under; those of one heading stand together */
  heading: (frame: Api['PlacedFrameDto']) => string;
}

/** Frames of several shoots; each opens in its own. */
export function PlacedSheet({ label, frames, heading }: Props) {
  const navigate = useNavigate();
  const list = useMemo(
    () => sheetList(frames.map((frame) => ({ key: frame.id, heading: heading(frame) }))),
    [frames, heading],
  );
  const open = useCallback(
    (i: number) => void navigate(`/shoots/${frames[i]!.shootId}/cull?frame=${frames[i]!.id}`),
    [navigate, frames],
  );
  const { at: picked, go: setPicked, onLayout } = useSheetWalk(frames.length, { enter: open });
  return (
    <ContactSheet
      label={label}
      list={list}
      cell={170}
      current={picked}
      onLayout={onLayout}
      render={(i, width, height, id) => {
        const frame = frames[i]!;
        return (
          <SheetCell
            index={i}
            id={id}
            src={frame.picture ? previewUrl(frame.picture, 'thumb') : null}
            name={`Frame ${frame.name}, ${frame.verdict}, ${frame.stars} stars`}
            caption={`${numberOf(frame.name)} · ${frame.time?.slice(11, 19) ?? 'no time'}`}
            verdict={frame.verdict}
            stars={frame.stars}
            label={frame.label}
            selected={i === picked}
            current={i === picked}
            plain
            noPicture={placeholderOf(frame)}
            width={width}
            height={height}
            onPick={setPicked}
            onOpen={open}
          />
        );
      }}
    />
  );
}

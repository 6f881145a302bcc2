import { noteOf } from '@arkiv/core';
import { useCallback, useEffect, useMemo, useRef, type MouseEvent } from 'react';
import { useNavigate } from 'react-router';
import { numberOf, placeholderOf, thumbUrl, uprightSize } from '../../data/frames';
import { ContactSheet, type SheetLayout } from '../../parts/ContactSheet';
import { SheetCell } from '../../parts/SheetCell';
import type { Handoff } from './useHandoff';

/** The keepers as a contact sheet under the headings of their stages; what is taken by the mouse is let go under another one. */
export function StagedSheet({
  handoff,
  onLayout,
}: {
  handoff: Handoff;
  onLayout: (layout: SheetLayout) => void;
}) {
  const { shoot, staged, at, targets, shootId } = handoff;
  const chosen = useMemo(() => new Set(targets.map(({ id }) => id)), [targets]);
  const navigate = useNavigate();
  const latest = useRef(handoff);
  useEffect(() => {
    latest.current = handoff;
  });
  const onPick = useCallback((i: number, event: Pick<MouseEvent, 'shiftKey' | 'ctrlKey' | 'metaKey'>) => {
    latest.current.pick(i, event.shiftKey ? 'range' : event.ctrlKey || event.metaKey ? 'toggle' : 'only');
  }, []);
  const onLasso = useCallback((indices: readonly number[], { add }: { add: boolean }) => {
    const { staged: now, targets: before, chooseThese } = latest.current;
    const drawn = indices.flatMap((i) => now.id(i) ?? []);
    if (drawn.length > 0) chooseThese([...new Set([...(add ? before.map(({ id }) => id) : []), ...drawn])]);
  }, []);
  const onDrop = useCallback((i: number) => latest.current.drop(i), []);
  const onHeadingDrop = useCallback((section: number) => latest.current.moveTo(section), []);
  const onOpen = useCallback(
    (i: number) => {
      const id = latest.current.staged.id(i);
      if (id) void navigate(`/shoots/${shootId}/cull?view=single&frame=${id}`);
    },
    [navigate, shootId],
  );
  return (
    <ContactSheet
      label="Keepers by stage"
      list={staged.list}
      cell={176}
      current={at}
      onLayout={onLayout}
      onLasso={onLasso}
      onHeading={handoff.fold}
      onHeadingDrop={onHeadingDrop}
      render={(i, width, height, id) => {
        const frame = shoot.byId.get(staged.id(i)!);
        if (!frame) return null;
        const note = frame.note === null ? null : noteOf(frame.note).words;
        return (
          <SheetCell
            index={i}
            id={id}
            src={thumbUrl(frame)}
            name={`Frame ${numberOf(frame.name)}, ${staged.stageOf(i)?.name ?? ''}${note === null ? '' : `, note: ${note}`}`}
            caption={[
              numberOf(frame.name),
              ...(frame.edited === null ? (frame.finished === null ? [] : ['finished']) : ['edited']),
              ...(note === null ? [] : [`✎ ${note}`]),
            ].join(' · ')}
            // All of them are kept: the ring would say it on each.
            verdict="undecided"
            stars={frame.stars}
            label={frame.label}
            selected={chosen.has(frame.id)}
            current={i === at}
            noPicture={placeholderOf(frame)}
            width={width}
            height={height}
            aspect={aspectOf(uprightSize(frame))}
            drags={chosen.has(frame.id)}
            onDrop={onDrop}
            onPick={onPick}
            onOpen={onOpen}
          />
        );
      }}
    />
  );
}

const aspectOf = (size: { width: number; height: number } | null) => (size ? size.width / size.height : null);

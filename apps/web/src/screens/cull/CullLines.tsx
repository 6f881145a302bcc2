import { useMemo } from 'react';
import { count } from '../../data/format';
import { JumpLine } from './JumpLine';
import { Line } from './Line';
import { NoteLine } from './NoteLine';
import { PassLine } from './passes/PassLine';
import { AlbumLine } from './albums/AlbumLine';
import { PileLine } from './piles/PileLine';
import { RunLine } from './RunLine';
import { ClockLine } from './takes/ClockLine';
import type { useCull } from './useCull';
import { WordsLine } from './words/WordsLine';
import { useVocabulary } from '../../data/vocabulary';
import { withTerms, wordsOf } from '../../data/words';

interface Props {
  cull: ReturnType<typeof useCull>;
  /** the place on the picture that a note is on, and whether one can be pointed at */
  spot: { x: number; y: number } | null;
  points: boolean;
  /** what the run-through waits for */
  waits: Parameters<typeof RunLine>[0]['waits'];
  onGo: (id: string) => void;
}

/** What a hand on the picture does. */
const FINISH_LINES = {
  crop: 'Crop: drag it or a corner · arrows move it · + and − size it · Shift with left and right lays it level',
  level: 'Level: draw a line along a horizon, or along a wall',
  grey: 'White balance: click what should be grey',
} as const;

/** The lines over the caption: what is asked, typed, gone through or offered. */
export function CullLines({ cull, spot, points, waits, onGo }: Props) {
  const { shoot, state, shown, at, current, dispatch, run } = cull;
  const { known: terms } = useVocabulary();
  const { frames } = shoot;
  // Suggested as of when the line was opened.
  // eslint-disable-next-line react-hooks/exhaustive-deps
  const known = useMemo(() => (state.wordsLine ? wordsOf(frames).keywords : []), [state.wordsLine]);
  return (
    // One child, so that the rows of the grid stay where they are.
    <div style={{ minWidth: 0 }}>
      {state.jump && (
        <JumpLine
          count={shown.length}
          frame={(i) => frames[shown.places[i]!]!}
          at={at}
          onGo={(i) => onGo(shown.id(i)!)}
          onEnd={() => state.jump && dispatch({ type: 'toggle', what: 'jump' })}
        />
      )}
      {state.pileLine && (
        <PileLine
          piles={cull.piles}
          current={cull.pile?.id ?? null}
          frames={cull.targets}
          onPut={cull.putInto}
          onEnd={() => state.pileLine && dispatch({ type: 'toggle', what: 'pileLine' })}
        />
      )}
      {state.albumLine && (
        <AlbumLine
          albums={cull.albums}
          current={cull.album?.id ?? null}
          frames={cull.targets}
          onPut={cull.putIntoAlbum}
          onEnd={() => state.albumLine && dispatch({ type: 'toggle', what: 'albumLine' })}
        />
      )}
      {state.noteLine && current && (
        <NoteLine
          key={current.id}
          note={current.note}
          spot={spot}
          frames={cull.targets}
          canPoint={points}
          onWrite={cull.note}
          onEnd={() => state.noteLine && dispatch({ type: 'toggle', what: 'noteLine' })}
        />
      )}
      {state.wordsLine && current && (
        <WordsLine
          key={`${cull.targetFrames.length} ${cull.targetFrames[0]?.id} ${cull.targetFrames.at(-1)?.id}`}
          frames={cull.targetFrames}
          known={known}
          terms={terms}
          onWrite={(wish) => cull.sayWords(terms ? withTerms(wish, terms.vocabulary) : wish)}
          onEnd={() => state.wordsLine && dispatch({ type: 'toggle', what: 'wordsLine' })}
        />
      )}
      {cull.pass.progress && (
        <PassLine
          progress={cull.pass.progress}
          keyOf={cull.keyOf}
          onNext={() => run({ do: 'nextShoot' })}
          onStop={cull.pass.stop}
        />
      )}
      {state.doubts && (
        <Line
          words={`Doubtful ${count(state.doubts.at + 1)} of ${count(state.doubts.of.length)}: one take, or does another begin?`}
          actions={[
            {
              words: 'One take',
              keys: cull.keyOf('take-join'),
              run: () => run({ do: 'take', deed: 'join' }),
            },
            {
              words: 'Another',
              keys: cull.keyOf('take-split'),
              run: () => run({ do: 'take', deed: 'split' }),
            },
            { words: 'Leave it', keys: cull.keyOf('next'), run: () => run({ do: 'step', by: 1 }) },
            { words: 'Done', keys: cull.keyOf('leave'), run: () => run({ do: 'selectNone' }) },
          ]}
        />
      )}
      {state.finishing !== null && state.finishing !== 'tones' && (
        <Line
          words={FINISH_LINES[state.finishing]}
          actions={[
            {
              words: 'Done',
              keys: cull.keyOf(state.finishing === 'crop' ? 'single' : 'leave'),
              run: () => dispatch({ type: 'finishing', as: 'tones' }),
            },
          ]}
        />
      )}
      {cull.clock && <ClockLine clock={cull.clock} keyOf={cull.keyOf} run={run} />}
      {state.follow && (
        <Line
          words="Following the newest frame"
          note={
            current?.id === cull.newest
              ? 'each that comes is gone to'
              : 'you have gone to another: from the newest it goes on'
          }
          actions={[
            ...(cull.newest === null || current?.id === cull.newest
              ? []
              : [
                  {
                    words: 'To the newest',
                    keys: '',
                    run: () => onGo(cull.newest!),
                  },
                ]),
            { words: 'Stop', keys: cull.keyOf('follow'), run: () => run({ do: 'follow' }) },
          ]}
        />
      )}
      {state.view === 'run' && <RunLine run={state.run} waits={waits} onRun={cull.run} />}
      {cull.prompt && <Line words={cull.prompt} note="Esc leaves" />}
      {cull.offer && (
        <Line
          words={cull.offer}
          actions={[{ words: 'Undo', keys: cull.keyOf('undo'), run: () => cull.run({ do: 'undo' }) }]}
          onEnd={cull.endOffer}
        />
      )}
    </div>
  );
}

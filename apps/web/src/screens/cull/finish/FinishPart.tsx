import { shownName } from '@arkiv/core';
import type { LoadedFrame } from '../../../data/frames';
import { SURROUNDS } from '../../../theme/theme';
import type { useCull } from '../useCull';
import { CropOver } from './CropOver';
import { FinishOver } from './FinishOver';
import { FinishPanel } from './FinishPanel';
import { GreyOver } from './GreyOver';

type Cull = ReturnType<typeof useCull>;

/** The panel at the picture's right, with what it works on. */
export function FinishPart({ cull }: { cull: Cull }) {
  const { state, current, dispatch, run, finishing } = cull;
  return (
    <FinishPanel
      frame={current}
      finishing={finishing}
      mode={state.finishing ?? 'tones'}
      beside={state.view === 'side'}
      take={cull.take.length}
      onMode={(as) => dispatch({ type: 'finishing', as })}
      onRun={run}
      onPut={(finish, fields, from) => cull.putFinish({ finish, fields, from, words: 'Finished' })}
      keyOf={cull.keyOf}
    />
  );
}

/** What lies over the single picture while it is finished. */
export function FinishOvers({ cull, frame }: { cull: Cull; frame: LoadedFrame }) {
  const { state, dispatch, looking, finishing } = cull;
  const { values } = finishing;
  // An edit that came back, or the picture before it was finished, is looked at as it is.
  if (state.finishing === null || !values || frame.edited !== null || state.version !== 0) return null;
  const shown = finishing.of(frame);
  if (state.finishing === 'crop' || state.finishing === 'level')
    return (
      <CropOver
        key={frame.id}
        frame={frame}
        finish={values}
        does={state.finishing}
        background={SURROUNDS[state.surround] ?? SURROUNDS[1]}
        onTry={finishing.attempt}
        onSettle={finishing.settle}
        onLevelled={() => dispatch({ type: 'finishing', as: 'crop' })}
      />
    );
  return (
    <>
      <FinishOver key={frame.id} name="single" frame={frame} values={shown} looking={looking} />
      {state.finishing === 'grey' && (
        <GreyOver
          name="single"
          frame={frame}
          values={shown}
          looking={looking}
          onGrey={(balance) => {
            if (!balance)
              return cull.say(`${shownName(frame.name)} is too dark or too bright there to say what is grey`);
            const { temperature = null, tint = null } = balance;
            finishing.attempt({ temperature, tint });
            finishing.settle();
            dispatch({ type: 'finishing', as: 'tones' });
          }}
        />
      )}
    </>
  );
}

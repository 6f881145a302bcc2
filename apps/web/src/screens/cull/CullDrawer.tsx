import { useCallback } from 'react';
import { ACTIONS } from '../../keys/actions';
import { shownKey, type Bindings } from '../../keys/bindings';
import type { CullFilter } from './cullFilter';
import { layoutOf, type Layout } from './cullState';
import { FilterDrawer } from './FilterDrawer';
import { KeptPart } from './KeptPart';
import { OrderPart } from './OrderPart';
import { StepPart } from './StepPart';
import { TakesPart } from './takes/TakesPart';
import type { useCull } from './useCull';
import type { Measuring } from './useMeasuring';
import styles from './FilterDrawer.module.css';

interface Props {
  cull: ReturnType<typeof useCull>;
  shootId: string;
  measuring: Measuring;
  /** how many bodies shot it */
  bodies: number;
  onFilter: (filter: CullFilter) => void;
}

/** What is shown, in which order and in which takes: Cull's filter, and all that is kept of such choices. */
export function CullDrawer({ cull, shootId, measuring, bodies, onFilter }: Props) {
  const { shoot, state, dispatch, names: labels, run } = cull;
  const onPile = useCallback(() => run({ do: 'pileLine' }), [run]);
  return (
    <FilterDrawer
      shoot={shoot}
      filter={state.filter}
      rules={cull.rules}
      line={cull.line}
      labels={labels}
      piles={cull.piles}
      onFilter={onFilter}
      onPile={onPile}
      below={
        <StepPart
          on={state.stepOn}
          after={state.stepAfter}
          onAfter={(kinds) => dispatch({ type: 'stepAfter', kinds })}
        />
      }
    >
      <OrderPart
        order={state.order}
        found={cull.found}
        measuring={measuring}
        onOrder={(order) => dispatch({ type: 'order', order })}
      />
      <TakesPart
        shootId={shootId}
        takes={cull.takes}
        frames={shoot.order.length}
        strict={state.strict}
        together={state.bodiesTogether}
        bodies={bodies}
        onTogether={() => dispatch({ type: 'toggle', what: 'bodiesTogether' })}
        onDoubts={() => run({ do: 'doubts' })}
        doubtKeys={cull.keyOf('take-doubts')}
        folded={state.folded}
        keys={cull.keyOf('fold')}
        onStrict={(strict) => dispatch({ type: 'strict', strict })}
        onFold={() => run({ do: 'fold' })}
      />
      <KeptPart
        list="layouts"
        title="Layouts"
        kept={cull.layouts}
        now={layoutOf(state)}
        keys={layoutKeys(cull.bindings)}
        onChoose={(layout: Layout) => dispatch({ type: 'layout', layout })}
      />
      <KeptPart
        list="filters"
        title="Kept filters"
        kept={cull.filters}
        now={cull.chips.length > 0 ? { ...state.filter, times: [] } : null}
        onChoose={onFilter}
      />
      <label className={styles.check}>
        <input
          type="checkbox"
          checked={cull.everywhere.is}
          onChange={(event) => cull.everywhere.set(event.target.checked)}
        />
        the same filter in every shoot
      </label>
    </FilterDrawer>
  );
}

/** The keys that choose the first layouts. */
const layoutKeys = (bindings: Bindings): string[] =>
  ACTIONS.filter(({ command }) => command.do === 'layout').map((action) =>
    shownKey(bindings.keysOf(action)[0] ?? ''),
  );

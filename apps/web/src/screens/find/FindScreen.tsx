import { visuallyHidden } from '@mui/utils';
import { DEFAULT_RULES, FIND_HEADINGS, withPart, type FindHeading, type KeeperRules } from '@arkiv/core';
import { useCallback, useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import { useNavigate, useParams } from 'react-router';
import { useBindings } from '../../data/bindings';
import { mediumDay } from '../../data/format';
import {
  numberOf,
  placeholderOf,
  thumbUrl,
  uprightSize,
  type FrameColumns,
  type LoadedFrame,
} from '../../data/frames';
import { albumQuestion, NO_QUESTION } from '../../data/findQuestion';
import { ALL_FOUND, foundFrames } from '../../data/frameSource';
import { ApiFailure, get, patch, post } from '../../data/http';
import { labelNames } from '../../data/labels';
import { useStages } from '../../data/stages';
import { usePiles, useSettings, useVolumes } from '../../data/live';
import { nearTimeLine } from '../../data/nearTime';
import { ContactSheet } from '../../parts/ContactSheet';
import { Loading } from '../../parts/Loading';
import { Problem } from '../../parts/Problem';
import { SheetCell } from '../../parts/SheetCell';
import { useKeptState } from '../../parts/useKeptState';
import { useScreenTitle } from '../../parts/screenTitle';
import { AlbumLine } from '../cull/albums/AlbumLine';
import { useIntoAlbums } from '../cull/albums/currentAlbum';
import { WhereDialog } from '../files/WhereDialog';
import { ArrangeDialog } from '../files/ArrangeDialog';
import { KeysDialog } from '../cull/KeysDialog';
import { useCurrentPile } from '../cull/piles/currentPile';
import { useCullKeys } from '../cull/useCullKeys';
import { AlbumHead } from './AlbumHead';
import { arrangeBefore } from './arranging';
import { FacetDrawer } from './FacetDrawer';
import { FindFolders, FoldersButton } from './FindFolders';
import { FindLine } from './FindLine';
import { KeptSearches } from './KeptSearches';
import { RuleAlbum } from './RuleAlbum';
import { HeldAgainst, PictureButton, useDroppedPicture } from './useDroppedPicture';
import { intoAlbum, runFind } from './findCommands';
import { targetsOf, type FindSeen } from './findSeen';
import { FoundCaption } from './FoundCaption';
import { FoundList, groupKey } from './foundList';
import { Nothing, Said } from './Said';
import { useFacets, useFind, usePages } from './useFind';
import styles from './Find.module.css';

const HEADING_WORDS: Readonly<Record<FindHeading, string>> = {
  ...{ none: 'as one sheet', shoot: 'by shoot', arrival: 'by arrival', year: 'by year', month: 'by month' },
  ...{ stars: 'by stars', keyword: 'by keyword', album: 'as arranged' },
};
const NO_IDS: ReadonlySet<string> = new Set();

/** Frames anywhere in the archive: one line says what is looked for, the sheet below shows what was found. */
export function FindScreen() {
  const { id } = useParams();
  const { question, change, result, error, store, text, waiting } = useFind(id);
  const { tree, albums, album, chooseAlbum } = useIntoAlbums();
  const looked = question.album === undefined ? null : tree.get(question.album);
  useScreenTitle(question.album === undefined ? 'Find' : looked ? `Album · ${looked.name}` : 'Album');
  // Marks draw the frames anew.
  useSyncExternalStore(store.subscribe, store.snapshot);
  usePages(result?.pages);
  const { data: settings } = useSettings();
  const rules = (settings?.rules as KeeperRules | undefined) ?? DEFAULT_RULES;
  const labels = useMemo(() => labelNames(settings), [settings]);
  const stages = useStages();
  const { data: piles = NONE } = usePiles();
  const { data: volumes } = useVolumes();
  const [pile] = useCurrentPile(piles);
  const navigate = useNavigate();
  const field = useRef<HTMLInputElement>(null);
  const facets = useFacets(result?.found.token);
  const [at, setAt] = useState(0);
  const [selection, setSelection] = useState<ReadonlySet<string>>(NO_IDS);
  const [folded, setFolded] = useState<ReadonlySet<string>>(NO_IDS);
  const [cell, setCell] = useKeptState('find.cell', 170);
  const [drawer, setDrawer] = useKeptState('arkiv.find.drawer', true);
  const [keptAt, keepAt] = useKeptState('find.at', { text: '', at: 0 });
  const [keys, setKeys] = useState(false);
  const [albumLine, setAlbumLine] = useState(false);
  const [arranging, setArranging] = useState(false);
  const [where, setWhere] = useState(false);
  const [notice, say] = useState('');
  const layout = useRef({ across: 1, rows: 1 });
  const bindings = useBindings();

  const asked = result?.question;
  const alone = looked !== null && tree.children(looked.id).length === 0;
  const list = useMemo(
    () =>
      result
        ? new FoundList(
            result.found.count,
            result.found.groups,
            // An album that holds no others is under its own name already.
            asked!.heading === 'album' && alone ? 'none' : asked!.heading,
            folded,
            result.pages,
          )
        : null,
    [result, asked, folded, alone],
  );
  const anchor = useRef<number | null>(null);
  // Other frames stand there now: one begins anew. What was looked for again, as frames came, leaves one where one stood.
  const stood = useRef<{ text: string; id: string | undefined }>({ text: '', id: undefined });
  const resultText = result ? JSON.stringify(result.question) : '';
  useEffect(() => {
    if (!result) return;
    const { id } = stood.current;
    if (stood.current.text !== resultText) {
      // Come back to, by a link or by Back, one stands where one stood.
      setAt(keptAt.text === resultText ? keptAt.at : 0);
      setSelection(NO_IDS);
      setFolded(NO_IDS);
      anchor.current = null;
    } else if (id) {
      const place = result.pages.places.get(id);
      if (place !== undefined) setAt(place);
    }
    stood.current = { text: resultText, id: undefined };
    // Where one stood is read when other frames come, not with each step.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [result, resultText]);
  const place = Math.min(at, Math.max(0, (list?.count ?? 1) - 1));
  const current = result?.pages.at(place);
  useEffect(() => {
    if (!current) return;
    stood.current.id = current.id;
    keepAt({ text: stood.current.text, at: place });
  }, [current, place, keepAt]);

  const go = useCallback((to: number) => {
    anchor.current = null;
    setAt(to);
    say('');
  }, []);
  const loaded = async (ids: readonly string[]): Promise<readonly LoadedFrame[]> => {
    const missing = ids.filter((id) => !store.snapshot().byId.has(id));
    if (missing.length > 0)
      store.add(foundFrames((await post('/find/frames', { ids: missing })) as unknown as FrameColumns));
    return ids.flatMap((id) => store.snapshot().byId.get(id) ?? []);
  };
  const allIds = async (): Promise<readonly string[]> =>
    result ? get(`/find/${result.found.token}/ids`).catch(() => []) : [];
  const open = (view: 'single' | 'sheet') => {
    if (!current) return;
    void navigate(`/find/${encodeURIComponent(text || ALL_FOUND)}/cull?view=${view}&frame=${current.id}`);
  };
  const fold = useCallback(
    (section: number) => {
      const group = result?.found.groups[section];
      if (!group) return;
      setFolded((now) => {
        const next = new Set(now);
        if (!next.delete(groupKey(group))) next.add(groupKey(group));
        return next;
      });
    },
    [result],
  );
  const toggleAll = () =>
    setFolded((now) =>
      now.size > 0 || !result ? NO_IDS : new Set(result.found.groups.map((group) => groupKey(group))),
    );
  const seen: FindSeen = {
    ...{
      store,
      rules,
      at: place,
      current,
      selection,
      cell,
      pile,
      album,
      go,
      say,
      loaded,
      allIds,
      open,
      setCell,
    },
    list: list ?? NO_LIST,
    layout,
    select: setSelection,
    toLine: () => {
      field.current?.focus();
      field.current?.select();
    },
    inShoot: (frame) => void navigate(`/shoots/${frame.shootId}/cull?view=single&frame=${frame.id}`),
    similar: (frame) => change({ ...NO_QUESTION, heading: 'none', like: frame.id }),
    nearTime: (frame) =>
      frame.time === null
        ? say('Its camera wrote no time')
        : change({ ...NO_QUESTION, line: nearTimeLine(frame.time) }),
    toggle: (what) => {
      if (what === 'drawer') setDrawer(!drawer);
      else if (what === 'keys') setKeys((now) => !now);
      else if (what === 'albumLine') setAlbumLine((now) => !now);
      else if (what === 'arranging') setArranging((now) => !now);
      else if (what === 'where') setWhere((now) => !now);
      else change({ fold: !question.fold });
    },
    foldAt: (i) => {
      const section =
        result?.found.groups.findIndex(({ from, count: its }) => i >= from && i < from + its) ?? -1;
      if (section >= 0) fold(section);
    },
    clear: () => change(looked ? albumQuestion(looked.id) : NO_QUESTION),
    within: looked && {
      ...{ id: looked.id, name: looked.name, byRule: looked.rule !== null },
      arranged: asked?.heading === 'album' && asked.like === undefined,
      albumAt: (i) =>
        result?.found.groups.find(({ from, count: its }) => i >= from && i < from + its)?.key ?? null,
      frameAt: async (i) => {
        await result?.pages.need(i);
        return result?.pages.at(i);
      },
      lead: (frame) =>
        void patch(`/albums/${looked.id}`, { lead: frame.id }).then(
          () => say(`It stands for the album “${looked.name}” now`),
          (failure: Error) => say(failure.message),
        ),
    },
  };
  const prefix = useCullKeys(bindings, (command) => void runFind(command, seen), say);
  // Whoever comes to look for something types; whoever comes back to what was found moves.
  useEffect(() => {
    if (window.location.search === '' && question.album === undefined) field.current?.focus();
    // Once, when it is come to.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  const pick = useCallback(
    async (i: number, held: { shiftKey: boolean; ctrlKey: boolean; metaKey: boolean }) => {
      const id = result?.pages.ids.get(i);
      if (id === undefined) return;
      say('');
      if (held.shiftKey && result) {
        const from = (anchor.current ??= place);
        const ids = await get(`/find/${result.found.token}/ids`).catch(() => []);
        setSelection(new Set(ids.slice(Math.min(from, i), Math.max(from, i) + 1)));
      } else {
        anchor.current = i;
        setSelection((now) => {
          if (!held.ctrlKey && !held.metaKey) return NO_IDS;
          const next = new Set(now);
          if (!next.delete(id)) next.add(id);
          return next;
        });
      }
      setAt(i);
    },
    [result, place],
  );
  const part = useCallback(
    (words: string) => {
      const all = ` ${question.line.trim()} `;
      const line = all.includes(` ${words} `)
        ? all.replace(` ${words} `, ' ').trim()
        : withPart(question.line, words);
      change({ line: line === '' ? '' : `${line} ` });
    },
    [question.line, change],
  );
  const onDropped = useCallback(
    // The frame itself is shown also where it is a reject, or lies in the bin.
    (like: string, original: boolean) =>
      change({ ...NO_QUESTION, heading: 'none', like, rejects: original, bin: original }),
    [change],
  );
  const dropped = useDroppedPicture(question.like, onDropped, say);
  const onLayout = useCallback((made: { across: number; rows: number }) => {
    layout.current = made;
  }, []);
  const follow = useMemo(() => ({ resultText }), [resultText]);
  // That the server is away is said over every screen: what was found stays meanwhile.
  const away = error instanceof ApiFailure && error.status === 0 && result !== null;
  const arranges = seen.within !== null && !seen.within.byRule && seen.within.arranged;
  const trouble = (away ? null : error) ?? dropped.error ?? null;
  return (
    <main className={styles.find} {...dropped.hands}>
      {/* One child, so that the rows of the grid stay where they are. */}
      <div style={{ minWidth: 0 }}>
        {looked ? (
          <AlbumHead key={looked.id} album={looked} tree={tree} />
        ) : (
          <h1 style={visuallyHidden}>Find</h1>
        )}
        <div className={styles.top}>
          <FindLine
            line={question.line}
            field={field}
            onLine={(line) => change({ line }, false)}
            onDone={() => field.current?.blur()}
          />
          <div className={styles.how}>
            <PictureButton onPicture={dropped.take} />
            {!looked && <FoldersButton line={question.line} onLine={(line) => change({ line })} />}
            <select
              aria-label="How it stands"
              value={question.heading}
              disabled={question.like !== undefined}
              onChange={(event) => change({ heading: event.target.value as FindHeading })}
            >
              {FIND_HEADINGS.filter((heading) => heading !== 'album' || looked).map((heading) => (
                <option key={heading} value={heading}>
                  {HEADING_WORDS[heading]}
                </option>
              ))}
            </select>
            <select
              aria-label="Which comes first"
              value={question.oldestFirst ? 'oldest' : 'newest'}
              disabled={
                question.like !== undefined || (question.heading === 'album' && looked?.rule === null)
              }
              onChange={(event) => change({ oldestFirst: event.target.value === 'oldest' })}
            >
              <option value="newest">newest first</option>
              <option value="oldest">oldest first</option>
            </select>
            <label
              className={styles.check}
              title="What was shot of one moment stands once, with how many of it were found"
            >
              <input
                type="checkbox"
                checked={question.fold}
                disabled={question.like !== undefined || question.heading === 'album'}
                onChange={(event) => change({ fold: event.target.checked })}
              />
              one for each take
            </label>
          </div>
        </div>
        {!looked && <FindFolders line={question.line} onLine={(line) => change({ line })} found={result} />}
      </div>
      <Said
        result={result}
        question={question}
        onChange={change}
        folds={list !== null && list.sections.length > 1}
        onFold={toggleAll}
        allFolded={folded.size > 0}
      />
      <div className={styles.middle}>
        <div className={styles.sheet}>
          {trouble !== null && <Problem error={trouble} />}
          {dropped.busy && <Loading what="the picture" />}
          {dropped.held && <HeldAgainst held={dropped.held} onStop={dropped.stop} />}
          {!result && !error && <Loading what="the archive" />}
          {result && result.found.count === 0 && result.found.reading === null && !dropped.held && (
            <Nothing
              result={result}
              album={looked}
              keyOf={(action) => bindings.shown(action)}
              onChange={change}
            />
          )}
          {list && list.count > 0 && (
            <div className={styles.frames}>
              <ContactSheet
                label="What was found"
                list={list}
                cell={cell}
                current={place}
                follow={follow}
                onLayout={onLayout}
                onSize={(by) => void runFind({ do: 'size', by }, seen)}
                onHeading={fold}
                render={(i, width, height, id) => {
                  const frame = result!.pages.at(i);
                  return (
                    <SheetCell
                      index={i}
                      id={id}
                      src={frame && !waiting ? thumbUrl(frame) : null}
                      name={
                        frame
                          ? `Frame ${numberOf(frame.name)}, ${frame.verdict}, ${frame.stars} stars`
                          : 'on its way'
                      }
                      caption={frame ? captionOf(frame, result!.pages.hits.get(i) ?? 1) : ' '}
                      verdict={frame?.verdict ?? 'undecided'}
                      stars={frame?.stars ?? 0}
                      label={frame?.label ?? null}
                      selected={frame !== undefined && selection.has(frame.id)}
                      current={i === place}
                      dimmed={frame?.binned === 1}
                      noPicture={frame && (!waiting || frame.picture === null) ? placeholderOf(frame) : '…'}
                      sign={frame?.binned === 1 ? 'in the bin' : (frame?.sign ?? null)}
                      aspect={frame ? aspectOf(frame) : null}
                      width={width}
                      height={height}
                      drags={arranges && frame !== undefined && (selection.has(frame.id) || i === place)}
                      onDrop={arranges ? (to) => void arrangeBefore(to, false, seen) : undefined}
                      onPick={(at_, held) => void pick(at_, held)}
                      onOpen={() => open('single')}
                    />
                  );
                }}
              />
            </div>
          )}
        </div>
        {drawer && (
          <FacetDrawer
            facets={result?.found.count === 0 ? NO_FACETS : facets}
            line={question.line}
            labels={labels}
            stages={stages}
            piles={piles}
            albums={albums}
            drives={volumes ?? NO_DRIVES}
            onPart={part}
          >
            <KeptSearches
              kept={settings?.searches ?? NO_KEPT}
              now={text}
              newest={result?.found.newest ?? 0}
              onChoose={(kept) => void navigate(`/find?${kept}`)}
            />
            {question.line.trim() !== '' && !looked && <RuleAlbum line={question.line.trim()} />}
          </FacetDrawer>
        )}
      </div>
      <div style={{ minWidth: 0 }}>
        {albumLine && (
          <AlbumLine
            albums={albums}
            current={album?.id ?? null}
            frames={targetsOf(seen).length}
            onPut={(one) => {
              chooseAlbum(one);
              void intoAlbum(one, seen, false);
            }}
            onEnd={() => setAlbumLine(false)}
          />
        )}
        <FoundCaption
          frame={current}
          place={place}
          all={result?.found.count ?? 0}
          selected={selection.size}
          notice={prefix === null ? notice : '…'}
          keyOf={(action) => bindings.shown(action)}
          seen={seen}
        />
      </div>
      {where && <WhereDialog frames={() => loaded(targetsOf(seen))} onClose={() => setWhere(false)} />}
      {arranging && (
        <ArrangeDialog
          frames={() => loaded(targetsOf(seen))}
          onClose={() => setArranging(false)}
          onDone={say}
        />
      )}
      <KeysDialog open={keys} onClose={() => setKeys(false)} />
    </main>
  );
}

const NONE: never[] = [];
const NO_FACETS: never[] = [];
const NO_DRIVES: never[] = [];
const NO_KEPT: never[] = [];
const NO_LIST = new FoundList(0, [], 'none', NO_IDS, { ids: new Map(), places: new Map() });

/** `hits`: frames of its take that were found, where one stands for them. */
const captionOf = (frame: LoadedFrame, hits: number): string =>
  [
    ...(hits > 1 ? [`${hits} of a take`] : []),
    numberOf(frame.name),
    frame.time ? mediumDay(frame.time.slice(0, 10)) : 'no time',
  ].join(' · ');

function aspectOf(frame: LoadedFrame): number | null {
  const size = uprightSize(frame);
  return size && size.width / size.height;
}

import { Button, Chip } from '@mui/material';
import { joinedMeant, withoutPart } from '@arkiv/core';
import type { Album } from '../../data/albums';
import { albumQuestion, NO_QUESTION, type FindQuestion } from '../../data/findQuestion';
import { count, many } from '../../data/format';
import { folderAsked } from '../../data/folderPart';
import { get } from '../../data/http';
import { PassOver } from '../../parts/PassOver';
import { TextLink } from '../../parts/TextLink';
import type { Result } from './useFind';
import styles from './Find.module.css';

/** Frames of a pass, as the server takes them. */
const MOST_OF_A_PASS = 50_000;

interface SaidProps {
  result: Result | null;
  question: FindQuestion;
  onChange: (change: Partial<FindQuestion>) => void;
  /** there is more than one heading */
  folds: boolean;
  allFolded: boolean;
  onFold: () => void;
}

/** How many were found by what, each part of which can be taken away, and what was left out. */
export function Said({ result, question, onChange, folds, allFolded, onFold }: SaidProps) {
  const found = result?.found;
  const isNow = result?.question.line === question.line;
  return (
    <section aria-label="What was looked for" className={styles.said}>
      <span role="status">
        {found ? (
          <>
            <strong>{count(found.count)}</strong>{' '}
            {found.folded === null
              ? many(found.count, 'frame').replace(/^\S+ /, '')
              : `of ${many(found.folded, 'frame')}, one for each take`}
          </>
        ) : (
          ' '
        )}
      </span>
      {question.like !== undefined && (
        <Chip
          label="like one picture"
          size="small"
          variant="outlined"
          onDelete={() => onChange(NO_QUESTION)}
          title="Take it away"
        />
      )}
      {isNow &&
        found?.parts.map((part) => (
          <Chip
            key={`${part.from} ${part.words}`}
            label={part.problem ? `${part.words}: ${part.problem}` : part.words}
            size="small"
            variant="outlined"
            color={part.problem ? 'error' : 'default'}
            onDelete={() => onChange({ line: `${withoutPart(question.line, part as never)} `.trimStart() })}
            title={`Take “${part.words}” away`}
          />
        ))}
      {found && found.rejects > 0 && (
        <button type="button" className={styles.also} onClick={() => onChange({ rejects: true })}>
          {many(found.rejects, 'reject')} left out: show them too
        </button>
      )}
      {question.rejects && (
        <Chip
          label="rejects too"
          size="small"
          variant="outlined"
          onDelete={() => onChange({ rejects: false })}
        />
      )}
      {found && found.binned > 0 && (
        <button type="button" className={styles.also} onClick={() => onChange({ bin: true })}>
          {count(found.binned)} in the bin: show them too
        </button>
      )}
      {question.bin && (
        <Chip label="the bin too" size="small" variant="outlined" onDelete={() => onChange({ bin: false })} />
      )}
      {found?.meant && (
        <button type="button" className={styles.also} onClick={() => onChange({ line: found.meant! })}>
          Did you mean “{found.meant}”?
        </button>
      )}
      {found?.reading && (
        <span role="status">
          The archive is being read: {count(found.reading.done)} of {count(found.reading.of)} frames, the
          newest first
        </span>
      )}
      {isNow && question.fold && found?.folded === null && found.count > 0 && question.like === undefined && (
        <span>too many to fold to their takes: a word or a fact more leaves fewer</span>
      )}
      {found && found.count > 0 && found.count <= MOST_OF_A_PASS && (
        <span style={{ marginLeft: 'auto' }}>
          <PassOver
            words={many(found.count, 'frame found', 'frames found')}
            over={async () => ({ frames: await get(`/find/${found.token}/ids`) })}
          />
        </span>
      )}
      {folds && (
        <button type="button" className={styles.also} onClick={onFold}>
          {allFolded ? 'Unfold all' : 'Fold all'}
        </button>
      )}
    </section>
  );
}

/** Why nothing is there, and what to do about it. */
export function Nothing({
  result,
  album,
  keyOf,
  onChange,
}: {
  result: Result;
  /** the one that is looked into; null: none is */
  album: Album | null;
  keyOf: (action: string) => string;
  onChange: (change: Partial<FindQuestion>) => void;
}) {
  const { found, question } = result;
  if (question.album !== undefined && question.line.trim() === '')
    return (
      <div className={styles.empty}>
        <h2>{album === null ? 'This album is not there any more.' : 'Nothing is in this album yet.'}</h2>
        <p>
          {album === null ? (
            <TextLink to="/albums">To the albums</TextLink>
          ) : album.rule === null ? (
            `In Cull and in Find, ${keyOf('album-choose')} puts the frame or the selection into it.`
          ) : (
            'No frame fits its rule by now; those that do later are in it by themselves.'
          )}
        </p>
      </div>
    );
  // “or” and “and” are words like any other, and were looked for.
  const meant = found.meant ?? joinedMeant(question.line);
  const empty = question.line.trim() === '' && question.like === undefined;
  return (
    <div className={styles.empty}>
      <h2>{empty ? 'Nothing is archived yet.' : 'Nothing was found.'}</h2>
      {empty && (
        <p>
          Frames are found here once they are taken in. <TextLink to="/">To the Desk</TextLink>
        </p>
      )}
      {question.like !== undefined && (
        <p>No picture looks enough like this one, or nobody has looked at it yet.</p>
      )}
      {meant && (
        <Button variant="contained" onClick={() => onChange({ line: meant })}>
          Look for “{meant}”
        </Button>
      )}
      {!empty && !meant && question.like === undefined && <p>{whyNot(found.parts.length, question.line)}</p>}
      {!empty && (
        <Button color="inherit" onClick={() => onChange(album ? albumQuestion(album.id) : NO_QUESTION)}>
          {album ? 'Show all of the album' : 'Show all frames'}
        </Button>
      )}
    </div>
  );
}

function whyNot(parts: number, line: string): string {
  if (parts > 1) return 'All parts of the line must hold of one frame. Take one of them away above.';
  if (folderAsked(line) !== null)
    return 'No frame of the archive lies there now, but for rejects, where these are left out.';
  return 'It stands in no caption, keyword, name or text of a frame, and in no shoot’s title, client or place.';
}

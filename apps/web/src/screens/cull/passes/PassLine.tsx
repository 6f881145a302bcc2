import { count } from '../../../data/format';
import { Line } from '../Line';
import type { Progress } from './usePass';

/** How the pass goes, and the way out of it. */
export function PassLine({ progress, onStop }: { progress: Progress; onStop: () => void }) {
  return (
    <Line
      words={`Pass: ${progress.name}`}
      note={progressWords(progress)}
      action={{ words: 'Stop', keys: 'M', run: onStop }}
    />
  );
}

/** What is seen, left and decided, and how long the rest will take. */
export function progressWords({ total, seen, kept, rejected, perMinute, minutesLeft }: Progress): string {
  const said = [
    `${count(seen)} of ${count(total)} seen`,
    ...(seen < total ? [`${count(total - seen)} left`] : []),
    `${count(kept)} kept`,
    `${count(rejected)} rejected`,
  ];
  if (perMinute !== null) said.push(`${count(Math.round(perMinute))} a minute`);
  if (minutesLeft !== null && minutesLeft > 0)
    said.push(
      minutesLeft < 1 ? 'less than a minute left' : `about ${count(Math.ceil(minutesLeft))} min left`,
    );
  return said.join(' · ');
}

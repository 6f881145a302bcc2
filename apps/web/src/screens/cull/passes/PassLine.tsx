import { count } from '../../../data/format';
import { Line } from '../Line';
import type { Progress } from './usePass';

interface Props {
  progress: Progress;
  /** the first key of an action, as it is read */
  keyOf: (action: string) => string;
  /** on to the next shoot of the pass */
  onNext: () => void;
  onStop: () => void;
}

/** How the pass goes, on to its next shoot, and the way out of it. */
export function PassLine({ progress, keyOf, onNext, onStop }: Props) {
  const { name, shoot } = progress;
  const several = shoot.of > 1;
  return (
    <Line
      words={`Pass: ${name}${several ? ` · shoot ${shoot.nth} of ${shoot.of}` : ''}`}
      note={progressWords(progress)}
      actions={[
        ...(several ? [{ words: 'Next shoot', keys: keyOf('next-shoot'), run: onNext }] : []),
        { words: 'Stop', keys: keyOf('passes'), run: onStop },
      ]}
    />
  );
}

/** What is seen, left and decided, and how long the rest will take. */
export function progressWords({
  total,
  seen,
  kept,
  rejected,
  perMinute,
  minutesLeft,
}: Omit<Progress, 'shoot'>): string {
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

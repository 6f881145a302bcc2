import { count, many } from '../../data/format';
import type { Api } from '../../data/http';

/** The steps of a shoot in working order. */
export const STEPS = ['cull', 'handoff', 'deliver', 'delivered'] as const;
export type StepName = (typeof STEPS)[number];

export interface NextStep {
  step: StepName;
  /** what the button says: verb and number */
  words: string;
  /** the screen's part of the address */
  to: string;
}

type Counted = Pick<Api['ShootDto'], 'frames' | 'keepers' | 'rejects' | 'handoffs' | 'deliveries'>;

/** What a shoot waits for: its frames are decided on first, then keepers go to editing, then to the client. */
export function nextStep(shoot: Counted): NextStep {
  const left = shoot.frames - shoot.keepers - shoot.rejects;
  if (left > 0 || shoot.keepers === 0) return { step: 'cull', words: `Cull ${count(left)} left`, to: 'cull' };
  if (shoot.handoffs === 0)
    return { step: 'handoff', words: `Hand off ${many(shoot.keepers, 'keeper')}`, to: 'handoff' };
  if (shoot.deliveries === 0)
    return { step: 'deliver', words: `Deliver ${many(shoot.keepers, 'keeper')}`, to: 'deliver' };
  return { step: 'delivered', words: 'Deliver again', to: 'deliver' };
}

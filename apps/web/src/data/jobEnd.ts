import { get } from './http';

/** Milliseconds between looks at a job that somebody waits for: short enough to feel at once, long enough to cost nothing. */
const LOOK = 200;

/** Waits for the end of a job. Throws with its words where it did not come to a good one, or left anything undone. */
export async function jobEnd(jobId: string): Promise<void> {
  for (;;) {
    const { job, failures } = await get(`/jobs/${jobId}`);
    const [first] = failures;
    if (job.state === 'done' && !first) return;
    if (job.state === 'done') throw new Error(first!.reason);
    if (!['queued', 'running'].includes(job.state)) throw new Error(job.reason ?? `The job is ${job.state}.`);
    await new Promise((resolve) => setTimeout(resolve, LOOK));
  }
}

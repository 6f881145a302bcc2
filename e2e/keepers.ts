import { expect, type APIRequestContext } from './test';

/** Keeps the first frames of a shoot, whatever other tests have left of them. */
export async function keepSome(request: APIRequestContext, shootId: string, frames = 5): Promise<void> {
  const answer = await request.get(`/api/shoots/${shootId}/frames`);
  const { id, verdict } = ((await answer.json()) as { columns: Record<'id' | 'verdict', string[]> }).columns;
  const operations = id.slice(0, frames).map((subject, i) => ({
    id: `01H${Date.now()}${String(i).padStart(10, '0')}`,
    ...{ subject, kind: 'verdict', from: verdict[i], to: 'keep' },
    ...{ at: Date.now(), group: 'keepers', window: 'other' },
  }));
  const headers = { 'x-arkiv': '1' };
  expect((await request.post('/api/marks', { headers, data: { operations } })).ok()).toBe(true);
}

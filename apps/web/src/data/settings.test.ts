import { ApiFailure } from './http';
import { changeSettings } from './settings';

/** A server that keeps settings, answers late, and counts what it is asked. */
function server() {
  const kept: Record<string, unknown> = { labels: { A: 'Amber', P: 'Plum' }, requiredCopies: 2 };
  const asked: string[] = [];
  global.fetch = jest.fn(async (_: unknown, { method, body }: { method: string; body?: string }) => {
    asked.push(method);
    await new Promise((resolve) => setTimeout(resolve, 5));
    const change = body ? (JSON.parse(body) as Record<string, unknown>) : {};
    if (change.requiredCopies === 0)
      return {
        ok: false,
        status: 400,
        text: async () => '{"message":"no","next":"yes"}',
        headers: new Map(),
      };
    Object.assign(kept, change);
    return { ok: true, status: 200, text: async () => JSON.stringify(kept), headers: new Map() };
  }) as unknown as typeof fetch;
  return { kept, asked };
}

describe('changes of settings', () => {
  const label = (name: string, text: string) =>
    changeSettings(({ labels }) => ({ labels: { ...labels, [name]: text } }));

  it('that are made in quick succession in one setting do not undo each other', async () => {
    const { kept } = server();
    await Promise.all([label('A', 'Press'), label('P', 'Print')]);
    expect(kept.labels).toEqual({ A: 'Press', P: 'Print' });
  });

  it('are made on what the settings are then, not on what a window last saw', async () => {
    const { kept } = server();
    kept.labels = { A: 'changed elsewhere', P: 'Plum' };
    await label('P', 'Print');
    expect(kept.labels).toEqual({ A: 'changed elsewhere', P: 'Print' });
  });

  it('go on after one that was refused, which says why', async () => {
    const { kept, asked } = server();
    const refused = changeSettings(() => ({ requiredCopies: 0 }));
    const next = changeSettings(() => ({ requiredCopies: 3 }));
    await expect(refused).rejects.toBeInstanceOf(ApiFailure);
    await next;
    expect(kept.requiredCopies).toBe(3);
    expect(asked).toEqual(['GET', 'PATCH', 'GET', 'PATCH']);
  });
});

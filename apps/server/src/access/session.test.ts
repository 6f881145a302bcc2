import type { Request } from 'express';
import { tokenOf } from './session';

const sent = (cookie: string | undefined) => ({ headers: { cookie } }) as Request;

describe('the session that a browser holds', () => {
  it('is the archive’s own among those of others on the same computer, whose cookies browsers send along', () => {
    const both = sent('arkiv_session_A=one; other=x; arkiv_session_B=two');
    expect(tokenOf(both, 'arkiv_session_A')).toBe('one');
    expect(tokenOf(both, 'arkiv_session_B')).toBe('two');
    expect(tokenOf(both, 'arkiv_session_C')).toBeNull();
    expect(tokenOf(both, 'arkiv_session')).toBeNull();
  });

  it('is none where nothing, or nothing of ours, is sent', () => {
    for (const cookie of [undefined, '', ';;', 'arkiv_session_A', 'arkiv_session_A='])
      expect(tokenOf(sent(cookie), 'arkiv_session_A')).toBeNull();
  });
});

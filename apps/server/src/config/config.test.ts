import path from 'node:path';
import { CONFIG_DEFAULTS, makeConfig } from './config';

describe('settings', () => {
  it('have defaults that bind to this machine alone', () => {
    const config = makeConfig({}, {});
    expect(config).toMatchObject({ host: '127.0.0.1', port: CONFIG_DEFAULTS.port, standIns: false });
    expect(path.isAbsolute(config.dataDir)).toBe(true);
  });

  it('take the file, and variables over the file', () => {
    expect(makeConfig({ port: 5000, host: 'studio' }, { ARKIV_PORT: '6000' })).toMatchObject({
      port: 6000,
      host: 'studio',
    });
    expect(makeConfig({}, { ARKIV_STAND_INS: '1' }).standIns).toBe(true);
    expect(makeConfig({ standIns: true }, { ARKIV_STAND_INS: '0' }).standIns).toBe(false);
  });

  it.each([
    [{ port: 'x' }, /port/],
    [{ port: 70000 }, /port/],
    [{ port: -1 }, /port/],
    [{ prot: 5000 }, /prot/],
    [{ host: 5 }, /host/],
  ])('that are wrong are named: %j', (file, name) =>
    expect(() => makeConfig(file as Record<string, unknown>, {})).toThrow(name),
  );
});

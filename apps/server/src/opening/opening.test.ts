import type { Request } from 'express';
import { isFromHere } from '../access/fromHere';
import { folderCommand, programCommand } from './launcher';

const asks = (remoteAddress: string, localAddress = '10.0.0.5', headers: Record<string, string> = {}) =>
  isFromHere({ socket: { remoteAddress, localAddress }, headers } as unknown as Request);

describe('who sits at this computer', () => {
  it('comes over the loopback address, or from the address that it asks', () => {
    expect(['127.0.0.1', '::1', '::ffff:127.0.0.1', '10.0.0.5'].map((address) => asks(address))).toEqual([
      ...[true, true, true, true],
    ]);
    expect(['10.0.0.6', '', '::ffff:10.0.0.6', '192.168.127.1'].map((address) => asks(address))).toEqual([
      ...[false, false, false, false],
    ]);
  });

  it('is nobody who comes through another server', () => {
    expect(asks('127.0.0.1', '127.0.0.1', { 'x-forwarded-for': '10.0.0.6' })).toBe(false);
    expect(asks('127.0.0.1', '127.0.0.1', { forwarded: 'for=10.0.0.6' })).toBe(false);
  });
});

describe('what is started', () => {
  it('shows a file in its folder by each system’s own program', () => {
    const file = '/drives/a/2031/it’s “one”; rm.dng';
    expect(folderCommand(file, 'darwin')).toEqual({ program: 'open', args: ['-R', file] });
    expect(folderCommand(file, 'win32')).toEqual({ program: 'explorer.exe', args: [`/select,${file}`] });
    expect(folderCommand(file, 'linux')).toEqual({ program: 'xdg-open', args: ['/drives/a/2031'] });
  });

  it('gets files where its arguments say, else at their end, each as one', () => {
    const files = ['/a b.dng', '/c.dng'];
    expect(programCommand('edit', [], files).args).toEqual(files);
    expect(programCommand('edit', ['--new', '{files}', '--end'], files).args).toEqual([
      ...['--new', '/a b.dng', '/c.dng', '--end'],
    ]);
  });
});

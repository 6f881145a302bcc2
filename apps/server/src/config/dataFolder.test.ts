import { dataFolder } from './dataFolder';

describe('the folder for the archive’s index', () => {
  it('is the operating system’s own place for a program’s data', () => {
    expect(dataFolder('linux', {}, '/home/ines')).toBe('/home/ines/.local/share/arkiv');
    expect(dataFolder('linux', { XDG_DATA_HOME: '/big/share' }, '/home/ines')).toBe('/big/share/arkiv');
    expect(dataFolder('darwin', {}, '/Users/ines')).toBe('/Users/ines/Library/Application Support/Arkiv');
    expect(dataFolder('win32', { LOCALAPPDATA: 'D:\\Local' }, 'C:\\Users\\ines')).toBe('D:\\Local\\Arkiv');
    expect(dataFolder('win32', {}, 'C:\\Users\\ines')).toBe('C:\\Users\\ines\\AppData\\Local\\Arkiv');
  });

  it('ignores a relative XDG_DATA_HOME, as the specification says', () => {
    expect(dataFolder('linux', { XDG_DATA_HOME: 'share' }, '/home/ines')).toBe(
      '/home/ines/.local/share/arkiv',
    );
  });
});

import { countDevices, deviceNames, mayShare, statedDisks, UNKNOWN_DEVICE } from './devices';

describe('distinct devices', () => {
  it('are physical disks: two partitions of one are one', () => {
    const [a, b, c] = deviceNames([['disk 1'], ['disk 1'], ['disk 2']]);
    expect(a).toBe(b);
    expect(a).not.toBe(c);
  });

  it('are one where a mirror ties two disks together, whatever the order', () => {
    const volumes = [['disk 2'], ['disk 3'], ['disk 2', 'disk 1'], ['disk 3', 'disk 2']];
    expect(new Set(deviceNames(volumes)).size).toBe(1);
    expect(new Set(deviceNames([...volumes].reverse())).size).toBe(1);
    expect(deviceNames(volumes)).toEqual([...deviceNames([...volumes].reverse())]);
  });

  it('count an unknown one as the same as any other, and alone as one', () => {
    expect(deviceNames([null, [], ['disk 1']])).toEqual([UNKNOWN_DEVICE, UNKNOWN_DEVICE, 'disk 1']);
    expect(countDevices(['disk 1', UNKNOWN_DEVICE])).toBe(1);
    expect(countDevices(['disk 1', UNKNOWN_DEVICE, 'disk 2'])).toBe(2);
    expect(countDevices([UNKNOWN_DEVICE, UNKNOWN_DEVICE])).toBe(1);
    expect(countDevices([])).toBe(0);
  });

  it('may be shared with what is unknown, and surely not with a disk of another name', () => {
    expect(mayShare(null, ['disk 1'])).toBe(true);
    expect(mayShare(['disk 1'], null)).toBe(true);
    expect(mayShare(['disk 1', 'disk 2'], ['disk 2'])).toBe(true);
    expect(mayShare(['disk 1'], ['disk 2'])).toBe(false);
  });

  it('go by the owner’s word where it was given', () => {
    expect(mayShare(statedDisks('blue drive'), statedDisks('red drive'))).toBe(false);
    expect(mayShare(statedDisks('blue drive'), statedDisks('blue drive'))).toBe(true);
  });
});

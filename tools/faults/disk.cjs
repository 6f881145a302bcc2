// Faults as decorators of the disk seam and of the writer: the server's own code runs unchanged above them.
const fs = require('node:fs');
const path = require('node:path');
const { Disk } = require('@arkiv/server/dist/disk/disk.js');

const deviceError = (code) => Object.assign(new Error(`${code}: made by the faults`), { code });

/**
 * Counts operations from the moment it is armed, and says at which one something is to happen.
 * `fault`: `{ kind: 'kill' | 'cut', site, at, when }` or `{ kind: 'device', name, at, … }`; null: none.
 */
class Control {
  constructor(fault, places, sabotage) {
    this.fault = fault;
    this.places = places;
    this.sabotage = sabotage;
    this.counts = {};
    this.armed = false;
    this.seen = 0;
    this.on = false;
  }

  arm() {
    this.armed = true;
    this.counts = {};
  }

  /** Whether the fault strikes at this operation. Only what touches the card, the drives or the archive counts. */
  strikes(site) {
    if (!this.armed) return false;
    this.counts[site] = (this.counts[site] ?? 0) + 1;
    const { fault } = this;
    return Boolean(fault && fault.kind !== 'device' && fault.site === site && this.counts[site] === fault.at);
  }

  /** Counts down to a device fault; true once it has set in. */
  device(name) {
    const { fault } = this;
    if (!this.armed || fault?.kind !== 'device' || fault.name !== name) return false;
    this.seen += 1;
    if (this.seen >= fault.at) this.on = true;
    return this.on;
  }

  /** The same without counting. */
  isOn(name) {
    return this.on && this.fault?.kind === 'device' && this.fault.name === name;
  }

  die() {
    if (this.fault.kind === 'cut') {
      this.forget?.();
      // The whole process stands still while the disk is looked at from outside.
      fs.writeSync(1, 'CUT\n');
      process.kill(process.pid, 'SIGSTOP');
    }
    process.kill(process.pid, 'SIGKILL');
  }

  /** Runs one numbered operation; `half` does a part of it. */
  async step(site, run, half) {
    if (!this.strikes(site)) return run();
    const { when } = this.fault;
    if (when === 'after') await run();
    else if (when === 'half' && half) await half();
    this.die();
    // After SIGSTOP nothing of this run goes on.
    return new Promise(() => {});
  }
}

class FaultDisk extends Disk {
  constructor(real, control) {
    super();
    this.real = real;
    this.control = control;
    /** what a disk forgets that was not flushed; only where no image can be mounted */
    this.unflushed = control.fault?.forgetful ? new Forgetful(control.places) : null;
    if (this.unflushed) control.forget = () => this.unflushed.forget();
    this.written = new Map();
    this.early = new Map();
  }

  where(at) {
    const text = String(at);
    for (const [name, root] of Object.entries(this.control.places))
      if (text === root || text.startsWith(`${root}/`)) return name;
    return null;
  }

  /** Device faults that make a place unreachable. */
  reach(at) {
    const where = this.where(at);
    const { control } = this;
    if (where === 'card' && control.isOn('pulled')) throw deviceError('ENOENT');
    if (where === 'b' && control.device('unplugged')) throw deviceError('ENOENT');
  }

  change(at) {
    this.reach(at);
    if (this.where(at) === 'b' && this.control.device('read-only')) throw deviceError('EROFS');
  }

  /** On a drive that folds case, the name that is there already in another case. */
  folded(at) {
    if (this.control.fault?.name !== 'case' || this.where(at) !== 'b') return at;
    const folder = path.dirname(String(at));
    if (!fs.existsSync(folder)) return at;
    const wanted = path.basename(String(at)).toLowerCase();
    const found = fs.readdirSync(folder).find((name) => name.toLowerCase() === wanted);
    return found ? path.join(folder, found) : at;
  }

  async openRead(given, options) {
    const at = this.folded(this.early.get(String(given)) ?? given);
    this.reach(at);
    const file = await this.control.step('openRead', () => this.real.openRead(at, options));
    const kept = this.control.sabotage === 'no-readback' ? this.written.get(String(given)) : undefined;
    return this.wrap(kept ? { ...methods(file), read: readsFrom(kept) } : file, String(at));
  }

  async createNew(given, mode) {
    this.change(given);
    let at = given;
    if (this.control.sabotage === 'early-rename' && isCopy(given)) {
      at = finalName(given);
      this.early.set(given, at);
      fs.rmSync(at, { force: true });
    }
    const file = await this.control.step('createNew', () => this.real.createNew(at, mode));
    this.unflushed?.made(at);
    return this.wrap(file, given);
  }

  async openAgain(at) {
    this.change(at);
    return this.wrap(await this.control.step('openAgain', () => this.real.openAgain(at)), at);
  }

  async link(from, to) {
    this.change(to);
    if (this.early.has(from)) return undefined;
    await this.stranger(to);
    if (this.folded(to) !== to) throw deviceError('EEXIST');
    if (this.control.sabotage === 'overwrite') {
      fs.rmSync(to, { force: true });
    }
    await this.control.step('link', () => this.real.link(from, to));
    this.unflushed?.linked(from, to);
    return undefined;
  }

  /** Somebody else's file comes to the very name, in the last moment. */
  async stranger(to) {
    const { control } = this;
    if (this.where(to) !== 'b' || !/\.(jpg|dng|wav|mov)$/.test(to)) return;
    const before = control.on;
    if (control.device('stranger') && !before) fs.writeFileSync(to, 'somebody else’s');
    if (control.device('case') && !before)
      fs.writeFileSync(path.join(path.dirname(to), path.basename(to).toUpperCase()), 'somebody else’s');
  }

  async rename(from, to) {
    this.change(to);
    await this.control.step('rename', () => this.real.rename(from, to));
    this.unflushed?.renamed(from, to);
  }

  async unlink(given) {
    if (this.early.has(String(given))) return undefined;
    this.change(given);
    this.unflushed?.unlinking(String(given));
    return this.control.step('unlink', () => this.real.unlink(given));
  }

  removeEmptyFolder(at) {
    this.change(at);
    return this.control.step('rmdir', () => this.real.removeEmptyFolder(at));
  }

  async makeFolders(at) {
    this.change(at);
    return this.control.step('makeFolders', () => this.real.makeFolders(at));
  }

  async syncFolder(at) {
    this.reach(at);
    if (this.control.sabotage === 'no-fsync') return undefined;
    await this.control.step('syncFolder', () => this.real.syncFolder(at));
    this.unflushed?.folderFlushed(String(at));
    return undefined;
  }

  async facts(given) {
    if (this.control.sabotage === 'overwrite' && isOriginal(given) && this.where(given) !== 'card')
      return null;
    try {
      this.reach(given);
    } catch {
      return null;
    }
    return this.control.step('facts', () => this.real.facts(this.folded(given)));
  }

  realPath(at) {
    this.reach(at);
    return this.real.realPath(at);
  }

  async names(at) {
    this.reach(at);
    return this.control.step('names', () => this.real.names(at));
  }

  space(at) {
    this.reach(at);
    return this.real.space(at);
  }

  async writable(at) {
    this.reach(at);
    return !(this.where(at) === 'b' && this.control.isOn('read-only')) && this.real.writable(at);
  }

  touch(at, millis) {
    this.change(at);
    return this.real.touch(at, millis);
  }

  watch(folder, onName) {
    return this.real.watch(folder, onName);
  }

  symlink(target, at) {
    this.change(at);
    return this.real.symlink(target, at);
  }

  wrap(file, at) {
    const { control } = this;
    const where = this.where(at);
    const present = () => {
      if (where === 'card' && control.isOn('pulled')) throw deviceError('EIO');
      if (where === 'b' && control.isOn('unplugged')) throw deviceError('EIO');
    };
    return {
      read: async (target, position) => {
        if (where === 'card' && control.device('pulled')) throw deviceError('EIO');
        present();
        const bad = control.fault?.name === 'unreadable' && control.armed && where === 'card';
        if (bad && at.endsWith(control.fault.file) && position + target.byteLength > control.fault.from) {
          control.on = true;
          throw deviceError('EIO');
        }
        return control.step('read', () => file.read(target, position));
      },
      write: async (given, position) => {
        present();
        if (where === 'b' && control.isOn('read-only')) throw deviceError('EROFS');
        if (where === 'b' && control.device('full')) fill(control.places.b);
        let source = given;
        if (isCopy(at) && given.byteLength > 0) {
          const before = control.on;
          if (control.device('flip') && !before) {
            if (control.sabotage === 'no-readback') this.keep(at, given, position);
            source = Uint8Array.from(given);
            source[source.byteLength >> 1] ^= 1;
          } else if (control.sabotage === 'no-readback') this.keep(at, given, position);
        }
        await control.step(
          'write',
          () => file.write(source, position),
          () => file.write(source.subarray(0, source.byteLength >> 1), position),
        );
        this.unflushed?.wrote(this.early.get(at) ?? at);
      },
      sync: async () => {
        present();
        if (control.sabotage === 'no-fsync') return;
        await control.step('sync', () => file.sync());
        this.unflushed?.flushed(this.early.get(at) ?? at);
      },
      facts: async () => {
        present();
        return file.facts();
      },
      close: () => file.close(),
    };
  }

  keep(at, bytes, position) {
    const whole = this.written.get(at) ?? Buffer.alloc(0);
    const next = Buffer.alloc(Math.max(whole.length, position + bytes.byteLength));
    whole.copy(next);
    next.set(bytes, position);
    this.written.set(at, next);
  }
}

const methods = (file) => ({
  write: (s, p) => file.write(s, p),
  sync: () => file.sync(),
  facts: () => file.facts(),
  close: () => file.close(),
});

const readsFrom = (bytes) => async (target, position) => {
  const part = bytes.subarray(position, position + target.byteLength);
  target.set(part);
  return part.length;
};

/** A copy of a card's file under its temporary name. */
const isCopy = (at) => /\.(jpg|dng|wav|mov|dat)\.[0-9A-Z]{26}\.part$/.test(String(at));
const isOriginal = (at) => /\.(jpg|dng|wav|mov|dat)$/.test(String(at));

function finalName(temporary) {
  const base = path
    .basename(temporary)
    .replace(/^\./, '')
    .replace(/\.[0-9A-Z]{26}\.part$/, '');
  return path.join(path.dirname(temporary), base);
}

/** Fills a small drive to the brim, for real. */
function fill(root) {
  const file = path.join(root, 'filler');
  if (fs.existsSync(file)) return;
  const handle = fs.openSync(file, 'w');
  try {
    for (let size = 1 << 20; size >= 512;) {
      try {
        fs.writeSync(handle, Buffer.alloc(size));
      } catch (error) {
        if (error.code !== 'ENOSPC') throw error;
        size >>= 1;
      }
    }
  } finally {
    fs.closeSync(handle);
  }
}

/**
 * A disk that loses at a power cut what was not flushed: contents since the last fsync, and names since the last fsync
 * of their folder. Stands in where no image can be mounted.
 */
class Forgetful {
  constructor(places) {
    this.places = places;
    this.dirty = new Set();
    this.names = new Map();
    this.trash = fs.mkdtempSync(path.join(places.data, 'forgotten-'));
    this.count = 0;
  }

  pending(folder) {
    if (!this.names.has(folder)) this.names.set(folder, []);
    return this.names.get(folder);
  }

  made(at) {
    this.dirty.add(at);
    this.pending(path.dirname(at)).push(() => fs.rmSync(at, { force: true }));
  }

  wrote(at) {
    this.dirty.add(at);
  }

  flushed(at) {
    this.dirty.delete(at);
  }

  linked(from, to) {
    if (this.dirty.has(from)) this.dirty.add(to);
    this.pending(path.dirname(to)).push(() => fs.rmSync(to, { force: true }));
  }

  renamed(from, to) {
    if (this.dirty.delete(from)) this.dirty.add(to);
    this.pending(path.dirname(to)).push(
      () => fs.existsSync(to) && !fs.existsSync(from) && fs.renameSync(to, from),
    );
  }

  unlinking(at) {
    if (!fs.existsSync(at)) return;
    const kept = path.join(this.trash, String(this.count++));
    fs.linkSync(at, kept);
    this.pending(path.dirname(at)).push(() => !fs.existsSync(at) && fs.linkSync(kept, at));
  }

  folderFlushed(folder) {
    this.names.delete(folder);
  }

  forget() {
    for (const at of this.dirty) if (fs.existsSync(at)) fs.truncateSync(at, 0);
    for (const undo of this.names.values()) for (const step of undo.reverse()) step();
  }
}

module.exports = { Control, FaultDisk };

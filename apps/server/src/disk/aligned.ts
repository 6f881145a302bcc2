/** Node has it; the types for Node 20 do not name it. */
declare const WebAssembly: {
  Memory: new (size: { initial: number; maximum: number; shared: true }) => { buffer: SharedArrayBuffer };
};

/** Bytes of one WebAssembly memory page. */
const PAGE = 65_536;

/**
 * A buffer whose memory begins at a page boundary, as reading past the page cache (O_DIRECT) demands. The memory
 * of a WebAssembly.Memory is page-aligned; that of a Buffer is not. It is shared: another thread can take the checksum
 * of the bytes where they lie.
 */
export function alignedBuffer(bytes: number): Uint8Array {
  const pages = Math.ceil(bytes / PAGE);
  const memory = new WebAssembly.Memory({ initial: pages, maximum: pages, shared: true });
  return new Uint8Array(memory.buffer, 0, bytes);
}

/**
 * Lends buffers and takes them back, so that a long intake does not ask the system for memory at every file.
 * Node runs our code in one thread: no lock is needed.
 */
export class BufferPool {
  private readonly free: Uint8Array[] = [];

  constructor(private readonly bytes: number) {}

  borrow(): Uint8Array {
    return this.free.pop() ?? alignedBuffer(this.bytes);
  }

  giveBack(buffer: Uint8Array): void {
    this.free.push(buffer);
  }
}

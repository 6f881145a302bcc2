// The package ships no types of its own for this entry.
declare module 'libheif-js/wasm-bundle' {
  interface HeifImage {
    get_width(): number;
    get_height(): number;
    is_primary?(): boolean;
    display(
      target: { data: Uint8ClampedArray; width: number; height: number },
      done: (target: unknown) => void,
    ): void;
    free?(): void;
  }
  const libheif: { HeifDecoder: new () => { decode(bytes: Uint8Array): HeifImage[] } };
  export default libheif;
}

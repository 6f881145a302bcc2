// The package ships no types for the decoder itself, which runs here without its browser worker.
declare module 'libraw-wasm/dist/libraw.js';

import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vite';

/** Scripts by the mode in which they are built, each alone and whole: under names that the server knows, none waiting for a second. */
const SCRIPTS: Record<string, string> = {
  gallery: 'src/main.ts',
  upload: 'src/upload/main.ts',
  hash: 'src/upload/hash.worker.ts',
};

export default defineConfig(({ mode }) => ({
  resolve: {
    alias: { '@arkiv/core': fileURLToPath(new URL('../../packages/core/src/index.ts', import.meta.url)) },
  },
  build: {
    target: 'es2022',
    modulePreload: false,
    // The first one begins anew.
    emptyOutDir: mode === 'gallery',
    rolldownOptions: {
      input: SCRIPTS[mode]!,
      output: { entryFileNames: `${mode}.js`, assetFileNames: 'gallery[extname]' },
    },
  },
}));

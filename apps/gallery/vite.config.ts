import { defineConfig } from 'vite';

// One script and one style sheet, under names that the server knows.
export default defineConfig({
  build: {
    target: 'es2022',
    modulePreload: false,
    rolldownOptions: {
      input: 'src/main.ts',
      output: { entryFileNames: 'gallery.js', assetFileNames: 'gallery[extname]' },
    },
  },
});

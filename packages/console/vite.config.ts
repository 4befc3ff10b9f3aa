import tailwind from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

// The page's script and style tags carry a nonce that the service fills in, answer by answer.
export default defineConfig({
  plugins: [react(), tailwind()],
  html: { cspNonce: '__CSP_NONCE__' },
  build: {
    outDir: 'dist/app',
    emptyOutDir: true,
    chunkSizeWarningLimit: 1500,
    assetsInlineLimit: 0,
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [
            // What `main.tsx` needs to set the language, before anything that says texts is loaded.
            {
              name: 'first',
              test: /core\/dist\/texts\/catalogue\.js$|get-nonce|vite\/preload-helper|console\/src\/theme/,
              priority: 2,
            },
            // What many views share comes as one file: a hundred small ones take longer to ask for than to read.
            { name: 'shared', minShareCount: 3, priority: 1 },
          ],
        },
      },
    },
  },
});

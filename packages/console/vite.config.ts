import tailwind from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

// The page's script and style tags carry a nonce that the service fills in, answer by answer.
export default defineConfig({
  plugins: [react(), tailwind()],
  html: { cspNonce: '__CSP_NONCE__' },
  build: { outDir: 'dist/app', emptyOutDir: true, chunkSizeWarningLimit: 1500, assetsInlineLimit: 0 },
});

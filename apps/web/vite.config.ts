import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react(), tailwindcss()],
  resolve: { conditions: ['norther-source', 'module', 'browser', 'import', 'default'] },
  build: { target: 'es2022', chunkSizeWarningLimit: 900 },
  worker: { format: 'es' },
  server: { port: 4320, proxy: { '/api': process.env['NORTHER_SERVER'] ?? 'http://127.0.0.1:4310' } },
});

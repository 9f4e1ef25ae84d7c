import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { brotliCompressSync, constants, gzipSync } from 'node:zlib';
import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig, type Plugin } from 'vite';

/** Lays every script, style and drawing beside itself as .br and .gz, made once with care instead of at each visit in a hurry. */
function compressed(): Plugin {
  let folder = '';
  return {
    name: 'norther-compressed',
    apply: 'build',
    configResolved: (config) => {
      folder = join(config.root, config.build.outDir, config.build.assetsDir);
    },
    closeBundle() {
      for (const name of readdirSync(folder)) {
        if (!/\.(js|css|svg|json)$/.test(name)) continue;
        const content = readFileSync(join(folder, name));
        if (content.length < 1024) continue;
        writeFileSync(
          join(folder, `${name}.br`),
          brotliCompressSync(content, { params: { [constants.BROTLI_PARAM_QUALITY]: 11 } }),
        );
        writeFileSync(join(folder, `${name}.gz`), gzipSync(content, { level: 9 }));
      }
    },
  };
}

export default defineConfig({
  plugins: [react(), tailwindcss(), compressed()],
  resolve: { conditions: ['norther-source', 'module', 'browser', 'import', 'default'] },
  build: { target: 'es2022', chunkSizeWarningLimit: 900 },
  worker: { format: 'es' },
  server: { port: 4320, proxy: { '/api': process.env['NORTHER_SERVER'] ?? 'http://127.0.0.1:4310' } },
});

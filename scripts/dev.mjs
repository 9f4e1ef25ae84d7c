#!/usr/bin/env node
// For developers: the built server on its own cluster with Vite's live interface in front of it.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { root } from './setup/paths.mjs';

const port = process.env.PORT || '4310';
const server = spawn(process.execPath, [join(root, 'scripts', 'start.mjs'), ...process.argv.slice(2)], {
  stdio: 'inherit',
});
const vite = spawn('npx', ['--no-install', 'vite'], {
  cwd: join(root, 'apps', 'web'),
  stdio: 'inherit',
  env: { ...process.env, NORTHER_SERVER: `http://127.0.0.1:${port}` },
});
const stop = () => {
  server.kill('SIGTERM');
  vite.kill('SIGTERM');
};
process.on('SIGINT', stop);
process.on('SIGTERM', stop);
server.once('exit', stop);

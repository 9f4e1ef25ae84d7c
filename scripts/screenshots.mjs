#!/usr/bin/env node
// Makes docs/screenshots from the demo shop of a running Norther: node scripts/screenshots.mjs http://127.0.0.1:4310
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { root } from './setup/paths.mjs';

const base = process.argv[2] ?? 'http://127.0.0.1:4310';
const VIEWS = [
  ['floor', '/'],
  ['motor', '/jobs/26-0001'],
  ['data', '/jobs/26-0007/data'],
  ['plan', '/jobs/26-0006/plan'],
  ['route', '/jobs/26-0003/route?stage=Connect'],
  ['step', '/jobs/26-0005/step/CUR'],
  ['ovens', '/ovens'],
  ['vessel', '/ovens?look=vessels'],
  ['balance', '/jobs/26-0021/balance'],
  ['tests', '/jobs/26-0030/tests?stage=IN&test=surge'],
  ['papers', '/jobs/26-0001/papers'],
  ['shop', '/shop'],
  ['joints', '/jobs/26-0006/joints'],
  ['archive', '/archive?like=job/26-0004/stator'],
  ['material', '/jobs/26-0006/material'],
  ['instruments', '/instruments'],
  ['load', '/jobs/26-0034/load'],
];
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
const page = await context.newPage();
const shoot = async (name, path, theme) => {
  await page.addInitScript((t) => localStorage.setItem('norther.theme', t), theme);
  await page.goto(base + path);
  await page.getByRole('heading').first().waitFor();
  await page.waitForTimeout(1200);
  await page.getByText(/^Searching/).waitFor({ state: 'hidden', timeout: 120_000 });
  await page.screenshot({ path: join(root, 'docs', 'screenshots', `${name}.png`) });
};
await context.request.post(`${base}/api/session`, { data: { signIn: 'liv', password: 'harbour-2026' } });
for (const [name, path] of VIEWS) await shoot(name, path, 'light');
await shoot('redesign', '/jobs/26-0013/plan?do=change', 'light');
await shoot('failure', '/jobs/26-0003/failure', 'dark');
await browser.close();

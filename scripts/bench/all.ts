import { benchApi } from './api.ts';
import { benchBalance } from './balance.ts';
import { benchCertificate } from './certificate.ts';
import { benchDrawing } from './drawing.ts';
import { benchFirstVisit } from './firstVisit.ts';
import { benchFloor } from './floor.ts';
import { benchLayout } from './layout.ts';
import { benchLoadRun } from './loadRun.ts';
import { benchNetwork } from './network.ts';
import { benchOven } from './oven.ts';
import { benchRedesign } from './redesign.ts';
import { show, type Figure } from './figure.ts';
import { benchScreen } from './screen.ts';
import { benchStorm } from './storm.ts';
import { benchSamples, benchTraces } from './traces.ts';
import { benchRejudge } from './rejudge.ts';
import { benchSurge } from './surge.ts';
import { benchTrends } from './trends.ts';

/** `npm run bench` runs all; `npm run bench -- core storm` only the named ones. */
const BENCHES: Record<string, () => Figure[] | Promise<Figure[]>> = {
  core: () => [...benchLayout(), ...benchDrawing(), ...benchRedesign(), ...benchNetwork()],
  oven: benchOven,
  balance: benchBalance,
  rejudge: benchRejudge,
  surge: benchSurge,
  api: benchApi,
  storm: benchStorm,
  visit: benchFirstVisit,
  screen: benchScreen,
  trends: benchTrends,
  floor: benchFloor,
  traces: benchTraces,
  samples: benchSamples,
  load: benchLoadRun,
  certificate: benchCertificate,
};
const asked = process.argv.slice(2);
const unknown = asked.find((name) => !(name in BENCHES));
if (unknown !== undefined) {
  process.stderr.write(`There is no benchmark "${unknown}"; there are ${Object.keys(BENCHES).join(', ')}.\n`);
  process.exit(1);
}
let good = true;
for (const [name, bench] of Object.entries(BENCHES))
  if (asked.length === 0 || asked.includes(name)) good = show(await bench()) && good;
process.exit(good ? 0 : 1);

import { benchApi } from './api.ts';
import { benchDrawing } from './drawing.ts';
import { benchLayout } from './layout.ts';
import { benchNetwork } from './network.ts';
import { benchRedesign } from './redesign.ts';
import { show } from './figure.ts';

const core = show([...benchLayout(), ...benchDrawing(), ...benchRedesign(), ...benchNetwork()]);
const api = process.argv[2] === 'core' ? true : show(await benchApi());
process.exit(core && api ? 0 : 1);

// From source (tests, development) the thread reads TypeScript as the command line does.
import { register } from 'tsx/esm/api';

register();
await import('./entry.ts');

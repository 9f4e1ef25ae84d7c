export { demo } from '../apps/server/src/testing/demoNumber.ts';

import type { INestApplicationContext } from '@nestjs/common';
import type { Gauge, SensorStage } from '@norther/core';
import type { Act } from '../database/writes.ts';
import { nowMs } from '../clock/clock.ts';
import { Sensors } from '../sensor/sensors.ts';
import { demoNumber } from './demoNumbers.ts';

const DAY = 86_400_000;

/** The capstan motor, ready to bake: thermistors in its three phases and a heater at the cold end. */
export const WITH_SENSORS = 23;

const FITTED = [
  { typed: { kind: 'PTC', mark: '1TP1', place: 'phase U, drive end' }, ohm: '86', then: '87' },
  { typed: { kind: 'PTC', mark: '1TP2', place: 'phase V, drive end' }, ohm: '91', then: '91' },
  { typed: { kind: 'PTC', mark: '1TP3', place: 'phase W, drive end' }, ohm: '84', then: '85' },
  { typed: { kind: 'heater', mark: '1HE1', place: 'end turns, other end', ratedV: '230', ratedW: '50' }, ohm: '1042', then: '1044' },
] as const;

/** Sensors as the shop fitted and measured them, before the resin. */
export async function addDemoSensors(app: INestApplicationContext, act: (who: string, at: number) => Act): Promise<void> {
  const sensors = app.get(Sensors);
  const number = demoNumber(WITH_SENSORS);
  const read = (id: string, stage: SensorStage, at: number, ohm: string, part: string) =>
    sensors.measure(act('winder', at), number, id, {
      stage,
      typed: { ohm, part, insulation: '>500', instrument: 'Insulation tester 1' },
    });
  for (const [i, one] of FITTED.entries()) {
    const at = nowMs() - 3 * DAY + i * 240_000;
    const { id } = await sensors.fit(act('winder', at), number, { part: 'stator', typed: { ...one.typed } });
    await read(id, 'fitted', at + 90_000, one.ohm, '20');
    await read(id, 'AC', at + 1.5 * DAY, one.then, '21');
  }
}

/** What the shop measures with; one ran out of calibration last week. */
export const DEMO_GAUGES = (at: number): Gauge[] =>
  (
    [
      ['Insulation tester 1', 210],
      ['Milliohmmeter 2', 160],
      ['Surge tester', 95],
      ['Core test set', 300],
      ['Pyrometer 3', -7],
      ['Floor scale', 120],
      ['Bore gauge set', 45],
    ] as const
  ).map(([name, days]) => ({ name, calibratedUntil: new Date(at + days * DAY).toISOString().slice(0, 10) }));

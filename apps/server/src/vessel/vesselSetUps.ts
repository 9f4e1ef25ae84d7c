import { fromBase, readForm, VESSEL_FIELDS, type FieldSpec, type Typed, type VesselSetUp } from '@norther/core';
import { defaultsOf, type changeVesselBody, type vesselBody } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import type { Reader } from '../database/tables.ts';
import { type Act, Writes } from '../database/writes.ts';
import { badField, badForm, conflict, notFound, Problem } from '../problem/problem.ts';
import { Shop } from '../shop/shop.ts';
import { TankRepository } from '../tank/tankRepository.ts';
import { VesselRepository } from './vesselRepository.ts';

/** Vessels as they are entered: sizes, set points, where the resin comes from, who reads them. */
@Injectable()
export class VesselSetUps {
  readonly writes: Writes;
  readonly shop: Shop;
  readonly tankRows: TankRepository;
  readonly rows: VesselRepository;
  constructor(
    @Inject(Writes) writes: Writes,
    @Inject(Shop) shop: Shop,
    @Inject(TankRepository) tankRows: TankRepository,
    @Inject(VesselRepository) rows: VesselRepository,
  ) {
    this.writes = writes;
    this.shop = shop;
    this.tankRows = tankRows;
    this.rows = rows;
  }

  async add(act: Act, body: z.output<typeof vesselBody>): Promise<{ id: string }> {
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const set = await this.vesselOf(tx, body);
      const row = await this.rows.add(tx, { ...set, at: act.at });
      if (!row) throw badField('name', `There is a vessel named ${set.name} already.`);
      await audit({ action: 'vessel.add', summary: `Vessel ${row.name} came into use`, after: body });
      await tell('ovens');
      return { id: row.id };
    });
  }

  async change(act: Act, id: string, body: z.output<typeof changeVesselBody>): Promise<{ id: string }> {
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const before = await this.rows.vessel(tx, id, 'lock');
      if (!before) throw notFound('such vessel');
      const open = await this.rows.openCycle(tx, id);
      if (open && (!body.active || body.instrumentId !== before.instrumentId))
        throw new Problem(409, 'In use', `Cycle ${open.number} runs in ${before.name}; change it when it is empty.`);
      const set = await this.vesselOf(tx, body);
      const row = await this.rows.change(tx, id, body.version, { ...set, active: body.active });
      if (!row) throw conflict(`${before.name} was changed meanwhile.`, before, body);
      await audit({ action: 'vessel.change', summary: `Vessel ${row.name} changed`, before, after: body });
      await tell('ovens');
      return { id };
    });
  }

  private async vesselOf(reader: Reader, body: z.output<typeof vesselBody>) {
    const v = await this.valuesOf(reader, VESSEL_FIELDS, body.typed);
    const n = (name: string) => Number(v[name]);
    const mm = (name: string) => 1000 * n(name);
    const setUp: VesselSetUp = {
      diameterMm: mm('diameter'),
      depthMm: mm('depth'),
      standMm: mm('stand'),
      coverMm: mm('cover'),
      vacuumMbar: fromBase(n('vacuum'), 'pressure', 'mbar'),
      vacuumHoldMin: fromBase(n('vacuumHold'), 'time', 'min'),
      soakMin: fromBase(n('soak'), 'time', 'min'),
      pressureBar: fromBase(n('pressure'), 'pressure', 'bar'),
      holdLeastMin: fromBase(n('holdLeast'), 'time', 'min'),
      holdMostMin: fromBase(n('holdMost'), 'time', 'min'),
      transferBar: fromBase(n('transfer'), 'pressure', 'bar'),
      partC: [n('partCold'), n('partWarm')],
      resinC: [n('resinCold'), n('resinWarm')],
      monomerMbar: fromBase(n('monomer'), 'pressure', 'mbar'),
      reliefDue: String(v['reliefDue']),
    };
    const above = (field: string, low: number, high: number) => {
      if (!(low < high)) throw badField(field, 'This must lie above the one before it.');
    };
    above('partWarm', ...setUp.partC);
    above('resinWarm', ...setUp.resinC);
    above('holdMost', setUp.holdLeastMin, setUp.holdMostMin);
    above('vacuum', setUp.monomerMbar, setUp.vacuumMbar);
    above('depth', setUp.standMm + setUp.coverMm, setUp.depthMm);
    if (body.tankId !== null && !(await this.tankRows.tank(reader, body.tankId)))
      throw badField('tankId', 'There is no such tank.');
    if (body.instrumentId !== null && !(await this.rows.isInstrument(reader, body.instrumentId)))
      throw badField('instrumentId', 'This instrument sends nothing of a resin tank; choose one that does.');
    return { name: String(v['name']), typed: body.typed, setUp, tankId: body.tankId, instrumentId: body.instrumentId };
  }

  async valuesOf(reader: Reader, specs: readonly FieldSpec[], typed: Typed) {
    const { settings } = await this.shop.view(reader);
    const reading = readForm(specs, typed, defaultsOf(settings), 'complete');
    if (reading.problems.length > 0) throw badForm(reading.problems);
    return reading.values;
  }
}

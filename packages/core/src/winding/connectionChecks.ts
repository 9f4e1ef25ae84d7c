import { wiresInHand } from '../wire/strands.ts';
import { groupsPerPhase, possibleCircuits, readableCircuitLimit } from './connection.ts';
import { inHalves } from './recordLayout.ts';
import { readConnection } from './readConnection.ts';
import type { WindingRecord } from './record.ts';
import { E, W, I, f, type Checks } from './checkTypes.ts';

/** Group ends that lie in stars inside, by leads and connection (circuits of each half where halves are brought out). */
function starEnds(record: WindingRecord): number | undefined {
  const c = record.circuits ?? 0;
  if (record.kind === 'two-speed') return record.duty === 'variable torque' ? 3 * c : record.duty ? 0 : undefined;
  switch (record.leads ?? '3') {
    case '3':
    case '9':
      return record.connection === 'wye' ? 3 * c : record.connection === 'delta' ? 0 : undefined;
    case '6 part-winding':
      return 6 * c;
    case '6':
    case '12':
      return 0;
  }
}

/** Checks of circuits, ends, stars and leads. */
export const CONNECTION_CHECKS: Checks = {
  circuits: {
    title: 'Circuits that work',
    run: ({ record, layout }) => {
      if (!layout || record.circuits === undefined) return undefined;
      const possible = possibleCircuits(layout);
      const halved = inHalves(record);
      const all = record.circuits * (halved ? 2 : 1);
      const hit = possible.find((p) => p.circuits === all);
      if (!hit) {
        const work = possible
          .filter((p) => !halved || p.circuits % 2 === 0)
          .map((p) => (halved ? p.circuits / 2 : p.circuits));
        return E(
          'circuits',
          ['circuits'],
          work.length === 0
            ? 'This winding cannot be brought out in two equal halves.'
            : `${record.circuits} circuits${halved ? ' in each half' : ''} would not be equal in this winding; ${work.join(', ')} would.`,
        );
      }
      // the halves of a two-speed winding are every other group, whatever the jumpers are called
      if (record.kind === 'two-speed' || record.kind === 'single-phase') return undefined;
      return record.jumper && !hit.jumpers.includes(record.jumper)
        ? E(
            'circuits',
            ['circuits', 'jumper'],
            `${record.circuits} circuits work here only with ${hit.jumpers.join(' or ')} jumpers.`,
          )
        : undefined;
    },
  },
  'wires-ends': {
    title: 'Wire tips against ends and wires in hand',
    run: ({ record }) => {
      const { wireTipsPerLead: tips, endsPerLead: ends } = record;
      if (tips === undefined || ends === undefined || !record.strands) return undefined;
      const w = wiresInHand(record.strands);
      return tips === ends * w
        ? undefined
        : E(
            'wires-ends',
            ['wireTipsPerLead', 'endsPerLead', 'strands'],
            `${tips} wire tips at a lead, but ${ends} ends of ${w} wires in hand make ${ends * w}.${ends === tips ? ' Were wires counted instead of ends?' : ''}`,
          );
    },
  },
  'ends-connection': {
    title: 'Ends per lead against connection',
    run: ({ record, layout }) => {
      const e = record.endsPerLead;
      if (e === undefined || !layout || record.kind === 'single-phase' || record.kind === 'two-speed') return undefined;
      const found = readConnection({
        leads: record.leads ?? '3',
        endsPerLead: e,
        circuitLimit: readableCircuitLimit(layout),
        groupsPerPhase: groupsPerPhase(layout),
      });
      const fits = found.candidates;
      const say = fits.map((x) => x.say).join(' or ');
      if (fits.length === 0)
        return E(
          'ends-connection',
          ['endsPerLead'],
          `${e} ends at a lead fit no connection of this winding. Recount${record.strands && wiresInHand(record.strands) > 1 ? ': were wires counted instead of ends?' : '.'}`,
        );
      const star = record.leads === '6' || record.leads === '12' || record.leads === '6 part-winding';
      if ((!record.connection && !star) || record.circuits === undefined)
        return I('ends-connection', ['endsPerLead'], `${e} ends at a lead mean ${say}.`);
      return fits.some((x) => (star || x.connection === record.connection) && x.circuits === record.circuits)
        ? undefined
        : E(
            'ends-connection',
            ['endsPerLead', 'connection', 'circuits'],
            `${e} ends at a lead do not make ${record.circuits}-circuit ${star ? 'phases' : record.connection}; they make ${say}.`,
          );
    },
  },
  'star-points': {
    title: 'Star points inside',
    run: ({ record }) => {
      const { starPoints: stars, endsPerStar: ends, circuits: c, connection } = record;
      if (stars === undefined || c === undefined || record.kind === 'single-phase') return undefined;
      const inStars = stars === 0 ? 0 : ends === undefined ? undefined : stars * ends;
      const expected = starEnds(record);
      if (expected === undefined || inStars === undefined || inStars === expected) return undefined;
      return E(
        'star-points',
        ['starPoints', 'endsPerStar'],
        `${inStars} ends lie in star points inside; ${c}-circuit ${record.kind === 'two-speed' ? 'two-speed winding' : (connection ?? '')} with ${record.leads ?? '3'} leads has ${expected}.`,
      );
    },
  },
  leads: {
    title: 'Leads against the voltages of the plate',
    run: ({ record, nameplate }) => {
      const v = nameplate.voltagesV;
      if (!record.leads || !v || v.length !== 2 || record.kind === 'single-phase' || record.kind === 'two-speed')
        return undefined;
      const ratio = Math.max(...v) / Math.min(...v);
      const expected =
        Math.abs(ratio - 2) < 0.06 ? ['9', '12'] : Math.abs(ratio - Math.sqrt(3)) < 0.08 ? ['6', '12'] : undefined;
      if (!expected || expected.includes(record.leads)) return undefined;
      return W(
        'leads',
        ['leads'],
        `${v.join('/')} V (1 : ${f(ratio)}) is made with ${expected.join(' or ')} leads; ${record.leads} were counted.`,
      );
    },
  },
};

import { wiresInHand } from '../wire/strands.ts';
import { connectionCandidates, possibleCircuits, readableCircuitLimit } from './connection.ts';
import { E, W, I, f, type Checks } from './checkTypes.ts';

/** Checks of circuits, ends, stars and leads. */
export const CONNECTION_CHECKS: Checks = {
  circuits: {
    title: 'Circuits that work',
    run: ({ record, layout }) => {
      if (!layout || record.circuits === undefined) return undefined;
      const possible = possibleCircuits(layout);
      const hit = possible.find((p) => p.circuits === record.circuits);
      if (!hit) {
        return E(
          'circuits',
          ['circuits'],
          `${record.circuits} circuits would not be equal in this winding; ${possible.map((p) => p.circuits).join(', ')} would.`,
        );
      }
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
      if (e === undefined || !layout || (record.leads ?? '3') !== '3') return undefined;
      const top = readableCircuitLimit(layout);
      const fits = connectionCandidates(e, top);
      const say = fits.map((x) => `${x.circuits}-circuit ${x.connection}`).join(' or ');
      if (fits.length === 0)
        return E(
          'ends-connection',
          ['endsPerLead'],
          `${e} ends at a lead fit no connection of this winding. Recount${record.strands && wiresInHand(record.strands) > 1 ? ': were wires counted instead of ends?' : '.'}`,
        );
      if (!record.connection || record.circuits === undefined)
        return I('ends-connection', ['endsPerLead'], `${e} ends at a lead mean ${say}.`);
      return fits.some((x) => x.connection === record.connection && x.circuits === record.circuits)
        ? undefined
        : E(
            'ends-connection',
            ['endsPerLead', 'connection', 'circuits'],
            `${e} ends at a lead do not make ${record.circuits}-circuit ${record.connection}; they make ${say}.`,
          );
    },
  },
  'star-points': {
    title: 'Star points inside',
    run: ({ record }) => {
      const { starPoints: stars, endsPerStar: ends, circuits: c, connection } = record;
      if (stars === undefined || !connection || c === undefined) return undefined;
      const leads = record.leads ?? '3';
      const inStars = stars === 0 ? 0 : ends === undefined ? undefined : stars * ends;
      const expected =
        leads === '3' && connection === 'wye'
          ? 3 * c
          : leads === '3' || leads === '6' || leads === '12'
            ? 0
            : undefined;
      if (expected === undefined || inStars === undefined || inStars === expected) return undefined;
      return E(
        'star-points',
        ['starPoints', 'endsPerStar'],
        `${inStars} ends lie in star points inside; ${c}-circuit ${connection} with ${leads} leads has ${expected}.`,
      );
    },
  },
  leads: {
    title: 'Leads against the voltages of the plate',
    run: ({ record, nameplate }) => {
      const v = nameplate.voltagesV;
      if (!record.leads || !v || v.length !== 2) return undefined;
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

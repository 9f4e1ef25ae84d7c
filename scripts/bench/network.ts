import { checkConnection, connect, jointsOf, layoutOf, mistakeDictionary, networkOf, signatureOf } from '@norther/core';
import { type Figure, median } from './figure.ts';

const made = (slots: number, poles: number, circuits: number) => {
  const layout = layoutOf({
    slots,
    poles,
    layers: 2,
    form: 'lap',
    poleGroups: 'every-pole',
    spanSlots: Math.floor((slots / poles) * 0.85),
    turns: [10],
  });
  const connection = connect(layout, { connection: 'wye', circuits, jumper: 'adjacent-pole', leads: 3 });
  return { layout, connection, joints: jointsOf(connection) };
};

/** The check of a connection as made, 48 groups, with one group reversed. */
export function benchNetwork(): Figure[] {
  const time = (slots: number, poles: number, circuits: number) => {
    const { layout, connection, joints } = made(slots, poles, circuits);
    const swap: Record<string, string> = { '4S': '4F', '4F': '4S' };
    const wrong = joints.map((j) => j.map((e) => swap[e] ?? e));
    return {
      check: median(() => checkConnection(layout, connection, wrong), 41),
      once: median(() => signatureOf(networkOf(layout, wrong)), 41),
      // a copy of the connection each time: a dictionary is made once for a connection and kept
      dictionary: median(() => mistakeDictionary(layout, { ...connection }), 41),
    };
  };
  const large = time(96, 16, 4);
  const small = time(24, 4, 1);
  return [
    {
      name: 'network check, 48 groups, one reversed',
      value: `${large.check.toFixed(2)} ms; tracing and solving the network once ${large.once.toFixed(2)} ms`,
      ratio: large.check / large.once,
      must: 'at most 8 times one solution: as made, as drawn, and each repair that would mend it',
      holds: large.check / large.once <= 8,
    },
    {
      name: 'network check, growth from 12 to 48 groups',
      value: `${small.check.toFixed(2)} -> ${large.check.toFixed(2)} ms`,
      ratio: large.check / small.check,
      must: 'no faster than the cube of the groups: at most 64',
      holds: large.check / small.check <= 64,
    },
    {
      name: 'dictionary of single mistakes, 48 groups',
      value: `${large.dictionary.toFixed(2)} ms (meant under 20); solving the network once ${large.once.toFixed(2)} ms`,
      ratio: large.dictionary / large.once,
      must: 'at most 4 times one solution',
      holds: large.dictionary / large.once <= 4,
    },
    {
      name: 'dictionary of single mistakes, growth from 12 to 48 groups',
      value: `${small.dictionary.toFixed(2)} -> ${large.dictionary.toFixed(2)} ms`,
      ratio: large.dictionary / small.dictionary,
      must: 'no faster than the square of the groups: at most 16',
      holds: large.dictionary / small.dictionary <= 16,
    },
  ];
}

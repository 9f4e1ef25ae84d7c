import {
  checkLink,
  formatNumber,
  fromLeadMarks,
  leadMark,
  readLink,
  runCalculation,
  terminalBoard,
  windingFactorsCalculation,
  type Connection,
  type Layout,
  type LayoutInput,
} from '@norther/core';
import { useMemo, useState } from 'react';
import { useMarks } from '../../app/shop.ts';
import { DrawingView, useMark } from '../../drawing/DrawingView.tsx';

const phaseName = (layout: Layout, letters: readonly string[], phase: string) => {
  const at = phase === 'A' ? 0 : phase === 'B' ? 1 : 2;
  return layout.kind === 'single-phase' ? (['main', 'aux.', ''][at] ?? phase) : (letters[at] ?? phase);
};

function Row({ of, children }: { of: string; children: React.ReactNode }) {
  const { lit, ...mark } = useMark(of);
  return (
    <tr {...mark} className={`border-b border-line ${lit ? 'bg-accent-tint' : ''}`}>
      {children}
    </tr>
  );
}

function JumperItem({ of, text }: { of: string; text: string }) {
  const { lit, ...mark } = useMark(of);
  return (
    <li {...mark} className={lit ? 'bg-accent-tint' : ''}>
      {text}
    </li>
  );
}

/** Circuits and jumpers, leads and star, how the leads are linked. */
export function ConnectionTables({ layout, made }: { layout: Layout; made: Connection }) {
  const { letters, school } = useMarks();
  const mark = (name: string) => leadMark(name, school, layout.kind);
  const board = useMemo(
    () => terminalBoard(made, (lead) => leadMark(lead, school, layout.kind)),
    [made, school, layout.kind],
  );
  return (
    <section>
      <h2 className="font-semibold border-b border-line">Circuits</h2>
      <table className="w-full text-small">
        <tbody>
          {made.circuits.map((c) => (
            <Row key={`${c.phase}${c.number}`} of={`phase:${c.phase}`}>
              <th scope="row" className="text-left w-16">
                {phaseName(layout, letters, c.phase)} {c.number}
              </th>
              <td>{`${mark(c.from)} – ${c.steps.map((s) => `${s.enter} ${s.leave}`).join(' – ')} – ${mark(c.to)}`}</td>
            </Row>
          ))}
        </tbody>
      </table>
      {made.jumpers.length > 0 ? (
        <>
          <h2 className="font-semibold border-b border-line mt-3">
            Jumpers, {made.jumpers.length} of {made.jumper === 'skip-pole' ? 'long 1-7' : 'short 1-4'}
          </h2>
          <ul className="columns-2 md:columns-3 text-small">
            {made.jumpers.map((j) => (
              <JumperItem
                key={`${j.from}${j.to}`}
                of={`jumper:${j.from}-${j.to}`}
                text={`${phaseName(layout, letters, j.phase)}  ${j.from} – ${j.to}`}
              />
            ))}
          </ul>
        </>
      ) : null}
      <h2 className="font-semibold border-b border-line mt-3">Leads and star</h2>
      <table className="w-full text-small">
        <tbody>
          {made.nodes.map((n) => (
            <Row key={n.name} of={n.kind === 'lead' ? `lead:${n.name}` : 'star'}>
              <th scope="row" className="text-left w-16">
                {mark(n.name)}
              </th>
              <td>{n.ends.join('  ')}</td>
            </Row>
          ))}
        </tbody>
      </table>
      {made.links.length > 0 ? (
        <>
          <h2 className="font-semibold border-b border-line mt-3">Links</h2>
          <table className="w-full text-small">
            <tbody>
              {made.links.map((l) => (
                <tr key={l.use} className="border-b border-line">
                  <th scope="row" className="text-left font-normal pr-2">
                    {l.use}
                  </th>
                  <td>
                    lines to {l.lines.map(mark).join(', ')}
                    {l.links.length > 0 ? `; joined ${l.links.map(mark).join(', ')}` : ''}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {board ? <DrawingView drawing={board} className="mt-2" /> : null}
          <LinkForm layout={layout} made={made} />
        </>
      ) : null}
    </section>
  );
}

const SAYS = {
  fits: 'As in the table',
  backwards: 'Turns backwards',
  'no listed use': 'Not in the table',
  wrong: 'Wrong',
} as const;

/** Leads linked as somebody did it, to be read against the table. */
function LinkForm({ layout, made }: { layout: Layout; made: Connection }) {
  const { school } = useMarks();
  const [lines, setLines] = useState(['', '', '']);
  const [joined, setJoined] = useState('');
  const leads = useMemo(() => made.nodes.filter((n) => n.kind === 'lead').map((n) => n.name), [made]);
  const found = useMemo(() => {
    if (lines.some((l) => l.trim() === '')) return undefined;
    const inner = (text: string) => fromLeadMarks(text, school, layout.kind);
    const link = readLink(lines.map(inner), inner(joined), leads);
    if (link.problem) return { problem: link.problem.sentence };
    return { check: checkLink(layout, made, link.lines, link.links) };
  }, [lines, joined, leads, layout, made, school]);
  const box = 'w-full min-h-9 border border-edge rounded-sm px-2 bg-sheet';
  const marked = (text: string) => leadMark(text, school, layout.kind);
  return (
    <details className="mt-2">
      <summary className="cursor-pointer text-accent underline">Check a link as made</summary>
      <div className="grid grid-cols-2 md:grid-cols-4 gap-2 mt-1 text-small">
        {['L1', 'L2', 'L3'].map((line, i) => (
          <label key={line}>
            On {line}
            <input
              value={lines[i]}
              onChange={(e) => setLines(lines.map((l, j) => (j === i ? e.target.value : l)))}
              className={box}
            />
          </label>
        ))}
        <label>
          Joined apart
          <input
            value={joined}
            placeholder={marked('T4-T5-T6')}
            onChange={(e) => setJoined(e.target.value)}
            className={box}
          />
        </label>
      </div>
      <div aria-live="polite" className="text-small mt-1">
        {found?.problem ? <p className="text-fail">{marked(found.problem)}</p> : null}
        {found?.check ? (
          <>
            <p className={`font-semibold ${found.check.verdict === 'fits' ? '' : 'text-fail'}`}>
              {SAYS[found.check.verdict]}
              {found.check.use ? `: ${found.check.use}` : ''}.
            </p>
            {found.check.messages.map((m) => (
              <p key={m}>{marked(m)}</p>
            ))}
          </>
        ) : null}
      </div>
    </details>
  );
}

/** Every coil with its slots: the list that stands in where a drawing is too fine for a finger. */
export function CoilTable({ layout }: { layout: Layout }) {
  const { letters } = useMarks();
  // coils round one tooth each go by their tooth: tooth s lies after slot s
  const teeth = layout.coils.every((c) => c.spanSlots === 1);
  return (
    <section>
      <h2 className="font-semibold border-b border-line">Coils</h2>
      <div className="max-h-80 overflow-auto" tabIndex={0} role="group" aria-label="Coil table">
        <table className="w-full text-small">
          <thead className="sticky top-0 bg-page">
            <tr>
              {[teeth ? 'Tooth' : 'Coil', 'Group', 'Phase', 'From slot', 'to slot', 'Span', 'Turns'].map((h) => (
                <th key={h} scope="col" className="text-left pr-2">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {layout.coils.map((c) => (
              <Row key={c.number} of={`coil:${c.number}`}>
                <td>{teeth ? c.goSlot : c.number}</td>
                <td>{c.group}</td>
                <td>
                  {phaseName(layout, letters, c.phase)}
                  {c.sign === 1 ? '+' : '−'}
                </td>
                <td>{c.goSlot}</td>
                <td>{c.returnSlot}</td>
                <td>1-{c.spanSlots + 1}</td>
                <td>{c.turns}</td>
              </Row>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

/** Factors of the harmonics: pitch, distribution, skew, total, signed. */
export function FactorTable({
  input,
  layout,
  skewSlots,
}: {
  input: LayoutInput;
  layout: Layout;
  skewSlots: number | undefined;
}) {
  const result = useMemo(
    () => runCalculation(windingFactorsCalculation, { ...input, highestOrder: 31, skewSlots: skewSlots ?? 0 }),
    [input, skewSlots],
  );
  const say = (x: number) => formatNumber(x, 4).replace('-', '−');
  const shown = result.values.factors.filter((f) => f.order % 2 === 1 || layout.slots % layout.poles !== 0);
  return (
    <section>
      <h2 className="font-semibold border-b border-line">
        Winding factors{layout.kind === 'single-phase' ? ' of the main winding' : ''}
      </h2>
      <div className="max-h-80 overflow-auto" tabIndex={0} role="group" aria-label="Winding factors">
        <table className="w-full text-small">
          <thead className="sticky top-0 bg-page">
            <tr>
              {['ν', 'pitch', 'distribution', 'skew', 'total'].map((h) => (
                <th key={h} scope="col" className="text-right pl-2 first:text-left">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {shown.map((f) => (
              <tr key={f.order} className="border-b border-line">
                <td>{f.order}</td>
                <td className="text-right">{say(f.pitch)}</td>
                <td className="text-right">{f.distribution === undefined ? '–' : say(f.distribution)}</td>
                <td className="text-right">{say(f.skew)}</td>
                <td className="text-right">{say(f.withSkew)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

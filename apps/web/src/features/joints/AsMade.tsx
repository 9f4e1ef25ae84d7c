import {
  checkConnection,
  circuitsAsMade,
  connectionRing,
  drawnAsMade,
  fromLeadMarks,
  jointsOf,
  leadMark,
  networkOf,
  parseJoints,
  sayJoint,
  sayPath,
  type Connection,
  type Layout,
  type WindingPart,
} from '@norther/core';
import type { JobDetail, JointSheet } from '@norther/contracts';
import { useMemo, useState } from 'react';
import { useDraft } from '../../app/draft.ts';
import { useSaveJointsMutation } from '../../app/api/winding.ts';
import { useMarks, useMay } from '../../app/shop.ts';
import { DrawingView } from '../../drawing/DrawingView.tsx';
import { Button } from '../../ui/Button.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';
import { Findings } from './Findings.tsx';

/** The joints as they really are: typed, or joined by touching two ends; traced and compared with the drawing. */
export function AsMade({
  job,
  part,
  layout,
  connection,
  sheet,
}: {
  job: JobDetail;
  part: WindingPart;
  layout: Layout;
  connection: Connection;
  sheet: JointSheet;
}) {
  const { school } = useMarks();
  const may = useMay('winder') && !job.closedAt;
  const mark = (joints: string) => leadMark(joints, school, layout.kind);
  const drawn = useMemo(() => jointsOf(connection).map(sayJoint).join('\n'), [connection]);
  // what is typed stays a draft until it is kept, and knows what was kept when it was begun
  const draft = useDraft(
    `asMade:${job.number}:${part}`,
    useMemo(() => ({ text: sheet.asMade, base: sheet.asMade }), [sheet.asMade]),
  );
  const { text = '', base = '' } = draft.typed;
  const setText = (to: string) => draft.set('text', to);
  // kept meanwhile, here or by someone else: what is not touched follows, what is typed stays and is told
  if (base !== sheet.asMade && (text === base || text === sheet.asMade))
    draft.take({ base: sheet.asMade, text: sheet.asMade });
  const overtaken = base !== sheet.asMade && text !== base && text !== sheet.asMade;
  const [first, setFirst] = useState<string>();
  const [save, { isLoading, error }] = useSaveJointsMutation();
  const read = useMemo(() => parseJoints(text), [text]);
  const check = useMemo(() => checkConnection(layout, connection, read.joints), [layout, connection, read]);
  const paths = useMemo(() => circuitsAsMade(networkOf(layout, read.joints)).paths, [layout, read]);
  const drawing = useMemo(
    () => connectionRing(layout, drawnAsMade(layout, connection, read.joints), { marks: school, size: 460 }),
    [layout, connection, read, school],
  );
  const ends = [
    ...connection.nodes.map((n) => n.name),
    ...layout.groups.flatMap((g) => [`${g.number}S`, `${g.number}F`]),
  ];
  const used = new Map<string, number>();
  read.joints.forEach((j, i) => j.forEach((e) => used.set(e, i)));
  const touch = (end: string): void => {
    if (first === undefined) return setFirst(end);
    setFirst(undefined);
    if (first === end) return;
    const joints = read.joints.map((j) => [...j]);
    const at = used.get(first) ?? used.get(end);
    if (at === undefined) joints.push([first, end]);
    else for (const e of [first, end]) if (!joints[at]?.includes(e)) joints[at]?.push(e);
    setText(joints.map(sayJoint).join('\n'));
  };
  return (
    <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,1fr)_minmax(0,1.1fr)] gap-6">
      <section aria-label="Joints as made">
        <p className="text-small text-soft">
          Touch two ends to join them{first ? `: ${mark(first)} and …` : ''}, or type one joint a line: 1F-4F,{' '}
          {mark('T1-1S-7S')}.
        </p>
        <div className="flex flex-wrap gap-1 my-2" role="group" aria-label="Ends">
          {ends.map((end) => (
            <button
              key={end}
              type="button"
              disabled={!may}
              aria-pressed={first === end}
              onClick={() => touch(end)}
              className={`min-w-11 min-h-11 px-1 border rounded-sm text-small ${first === end ? 'bg-accent text-on-accent border-accent' : used.has(end) ? 'border-line bg-sunk text-soft' : 'border-edge bg-sheet font-semibold'}`}
            >
              {mark(end)}
            </button>
          ))}
        </div>
        <textarea
          aria-label="Joints, one a line"
          value={mark(text)}
          disabled={!may}
          onChange={(e) => setText(fromLeadMarks(e.target.value, school, layout.kind))}
          rows={12}
          className="w-full border border-edge rounded-sm p-2 bg-sheet font-mono text-small"
        />
        <div className="flex flex-wrap gap-2 mt-2">
          <Button
            look="main"
            disabled={!may || isLoading || overtaken || read.problems.length > 0 || text === sheet.asMade}
            onClick={() =>
              void save({ number: job.number, part, version: sheet.version, order: sheet.order, asMade: text })
            }
          >
            Keep as made
          </Button>
          <Button look="plain" disabled={!may} onClick={() => setText(drawn)}>
            Start from the drawing
          </Button>
          <Button look="quiet" disabled={!may} onClick={() => setText('')}>
            Clear
          </Button>
        </div>
        {overtaken ? (
          <div role="status" className="border-l-4 border-attention pl-2 text-small my-2">
            Other joints were kept meanwhile:
            <pre className="font-mono whitespace-pre-wrap">{mark(sheet.asMade) || 'none'}</pre>
            <Button look="plain" onClick={() => draft.take({ base: sheet.asMade, text: sheet.asMade })}>
              Take those
            </Button>{' '}
            <Button look="quiet" onClick={() => draft.take({ base: sheet.asMade, text })}>
              Go on with mine
            </Button>
          </div>
        ) : null}
        {read.problems.map((p) => (
          <ProblemNote key={p}>{p}</ProblemNote>
        ))}
        <ProblemNote error={error} />
      </section>
      <div className="space-y-4">
        <Findings check={check} />
        <DrawingView drawing={drawing} />
        <section aria-label="Circuits traced">
          <h2 className="font-semibold border-b border-line">Circuits as traced</h2>
          <ul className="text-small">
            {paths.slice(0, 60).map((p, i) => (
              <li key={i} className="border-b border-line">
                {sayPath(p, school)}
              </li>
            ))}
          </ul>
        </section>
      </div>
    </div>
  );
}

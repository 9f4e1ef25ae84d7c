import {
  asLinkedToRun,
  connectionOfRecord,
  jointsOf,
  judgeTest,
  judgeWavePuzzle,
  parseNumber,
  plantWaveFault,
  surgeTest,
  SURGE_PHASES,
  WAVE_FAULTS,
  windingResistanceTest,
  type Cause,
  type SurgePhase,
  type TestStage,
  type WavePuzzle,
} from '@norther/core';
import { type JobDetail, windingOfPart } from '@norther/contracts';
import { useMemo, useState } from 'react';
import { useDraft } from '../../app/draft.ts';
import { useSettings } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { PlainSelect } from '../../ui/Field.tsx';
import { Quiet } from '../../ui/Problem.tsx';
import { contextOf } from './benchContext.ts';
import { Diagnosis } from './Diagnosis.tsx';
import { SurgeChart } from './SurgeChart.tsx';
import { drawnOfWaves } from './waves.ts';

/** Where a winding says no voltage. */
const USUAL_V = 1800;

/** This motor's winding with a fault that nobody knows: found from its waves, resistances and insulation; the score is kept. */
export function WavesPractice({ job, stage }: { job: JobDetail; stage: TestStage }) {
  const limits = useSettings()?.limits;
  const [puzzle, setPuzzle] = useState<WavePuzzle>();
  const [fault, setFault] = useState<(typeof WAVE_FAULTS)[number]>('nothing wrong');
  const [phase, setPhase] = useState('');
  const [answer, setAnswer] = useState<'right' | 'near' | 'wrong'>();
  const draft = useDraft('practice:waves');
  const score = { right: Number(draft.typed['right'] ?? 0), tried: Number(draft.typed['tried'] ?? 0) };
  const wound = useMemo(() => {
    const { layout, connection } = connectionOfRecord(windingOfPart(job, 'stator').record);
    const linked = layout && connection && asLinkedToRun(layout, connection);
    return linked ? { layout, joints: jointsOf(linked) } : undefined;
  }, [job]);
  const context = useMemo(() => contextOf(job, stage, 'stator', limits ?? {}), [job, stage, limits]);
  const drawn = useMemo(() => (puzzle ? drawnOfWaves(puzzle.waves) : []), [puzzle]);
  const found = useMemo(() => {
    if (!puzzle || !answer) return undefined;
    const values = Object.fromEntries(
      ['ab', 'bc', 'ca'].flatMap((k, i) => {
        const read = puzzle.ohm[i] ?? '';
        const ohm = parseNumber(read.replace(/^>\s*/, '').replace(/[^\d.,e+-].*$/i, ''));
        return ohm === undefined ? [] : [[k, ohm] as const, [`${k}OverRange`, read.startsWith('>')] as const];
      }),
    );
    const resistance = judgeTest(windingResistanceTest, { ...values, windingC: 21 }, context, '');
    const phases = (resistance.result?.values as { phasesOhm?: [number, number, number] } | undefined)?.phasesOhm;
    return judgeTest(
      surgeTest,
      {},
      {
        ...context,
        waves: puzzle.waves,
        earlierWaves: undefined,
        before: { fullTests: 0, insulation: puzzle.insulation, ...(phases ? { phasesOhm: phases } : {}) },
      },
      '',
    );
  }, [puzzle, answer, context]);
  if (!wound) return <Quiet>Practice is for three-phase windings of one speed whose connection is recorded.</Quiet>;
  const plant = (): void => {
    setAnswer(undefined);
    setPhase('');
    setPuzzle(
      plantWaveFault(
        {
          ...wound,
          volts: Number(surgeTest.due?.(context).typed?.['testV'] ?? USUAL_V) || USUAL_V,
          lineOhm: context.figures?.lineResistance20Ohm ?? 1,
        },
        Math.random,
      ),
    );
  };
  const judge = (): void => {
    if (!puzzle) return;
    const how = judgeWavePuzzle(puzzle, { fault, phase: SURGE_PHASES.find((p) => p === phase) });
    setAnswer(how);
    draft.take({ right: String(score.right + (how === 'right' ? 1 : 0)), tried: String(score.tried + 1) });
  };
  const asks = fault !== 'nothing wrong';
  return (
    <section aria-label="Practice" className="space-y-2 border border-line bg-sheet px-3 py-2 my-3">
      <p>
        This winding on a simulated tester, with a fault or none. Say what it is.{' '}
        <strong>
          {score.right} of {score.tried} found.
        </strong>
      </p>
      <Button look={puzzle && !answer ? 'plain' : 'main'} onClick={plant}>
        {puzzle ? 'Another one' : 'Put one on the tester'}
      </Button>
      {puzzle ? (
        <>
          <p className="text-small">
            Resistance U–V {puzzle.ohm[0]} Ω, V–W {puzzle.ohm[1]} Ω, W–U {puzzle.ohm[2]} Ω; insulation {puzzle.megohm}{' '}
            MΩ after 1 min, 21 °C.
          </p>
          <SurgeChart drawn={drawn} volts={[...new Set(drawn.map((d) => d.appliedV))].sort((a, b) => a - b)} />
          <div className="flex flex-wrap gap-3 items-end">
            <PlainSelect
              label="It is"
              value={fault}
              onChange={(e) => setFault(WAVE_FAULTS.find((f) => f === e.target.value) ?? 'nothing wrong')}
              options={WAVE_FAULTS.map((f) => ({ value: f, label: f }))}
            />
            {asks ? (
              <PlainSelect
                label="in phase"
                value={phase}
                onChange={(e) => setPhase(e.target.value)}
                options={[{ value: '', label: '' }, ...SURGE_PHASES.map((p: SurgePhase) => ({ value: p, label: p }))]}
              />
            ) : null}
            <Button look="main" disabled={answer !== undefined || (asks && phase === '')} onClick={judge}>
              That is it
            </Button>
          </div>
          {answer ? (
            <p role="status" className="font-semibold">
              {answer === 'right' ? 'Right: ' : answer === 'near' ? 'Nearly: ' : 'No: '}
              {puzzle.fault}
              {puzzle.phase ? `, phase ${puzzle.phase}` : ''}.
            </p>
          ) : null}
          {found ? (
            <>
              <p className="text-small">{found.reason}</p>
              <Diagnosis causes={(found.result?.values as { diagnosis?: Cause[] } | undefined)?.diagnosis ?? []} />
            </>
          ) : null}
        </>
      ) : null}
    </section>
  );
}

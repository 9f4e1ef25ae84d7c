import {
  IMPREGNATIONS,
  NAMEPLATE_FIELDS,
  polesFrom,
  ROUTE_IDS,
  ROUTES,
  WHAT_CAME,
  type FieldSpec,
} from '@norther/core';
import type { Intake, JobDetail, NewJob } from '@norther/contracts';
import { useRef, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { problemOf } from '../../app/api/base.ts';
import {
  useAddFileMutation,
  useChangeJobMutation,
  useCustomersQuery,
  useJobQuery,
  useTakeJobMutation,
  useVisitsQuery,
} from '../../app/api/job.ts';
import { useFirstField } from '../../app/keyboard.ts';
import { useTime } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { DraftNote, enterMovesOn, Field } from '../../ui/Field.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { type Typed, useTypedForm } from '../../ui/useTypedForm.ts';
import { shrunk } from './shrink.ts';

const choice = (values: readonly string[]) =>
  ({ kind: 'choice', options: values.map((value) => ({ value, label: value })) }) as const;
const text = { kind: 'text' } as const;
const longText = { kind: 'text', long: true } as const;
const FITTED = ['bearings', 'thermal sensors', 'heaters', 'brake', 'encoder', 'fan', 'coupling'] as const;

const VISIT_FIELDS: readonly FieldSpec[] = [
  { name: 'customerName', label: 'Customer', read: text, required: true },
  {
    name: 'what',
    label: 'What it is',
    read: text,
    required: true,
    hint: 'as the floor will call it: winch motor, milk pump',
  },
  { name: 'came', label: 'What came', read: choice(WHAT_CAME), required: true },
  { name: 'quantity', label: 'How many alike', read: { kind: 'count', min: 1, max: 500 } },
  {
    name: 'route',
    label: 'Route',
    read: { kind: 'choice', options: ROUTE_IDS.map((r) => ({ value: r, label: ROUTES[r].title })) },
    required: true,
  },
  { name: 'impregnation', label: 'Resin by', read: choice(IMPREGNATIONS), required: true },
  { name: 'priority', label: 'Priority', read: choice(['ordinary', 'urgent']), required: true },
  { name: 'promised', label: 'Promised for', read: { kind: 'date' } },
  { name: 'complaint', label: "Complaint, in the customer's words", read: longText },
  { name: 'condition', label: 'Condition', read: longText },
  { name: 'leadPosition', label: 'Leads come out', read: text },
  { name: 'boxPosition', label: 'Lead box sits', read: text },
  { name: 'looseParts', label: 'Loose parts lie', read: text, hint: 'shelf, tray, box' },
  { name: 'missing', label: 'Missing parts', read: text },
];
const plate = NAMEPLATE_FIELDS.map((f) => ({ ...f, name: `plate:${f.name}` }));
const ALL: readonly FieldSpec[] = [
  ...VISIT_FIELDS,
  ...plate,
  ...FITTED.map((f): FieldSpec => ({ name: `fitted:${f}`, label: f, read: { kind: 'flag' } })),
];
const START: Typed = {
  came: 'whole motor',
  route: 'ac_random_rewind',
  impregnation: 'dip',
  priority: 'ordinary',
  'plate:phases': '3',
};

function typedOf(job: JobDetail): Typed {
  const { intake } = job;
  return Object.fromEntries(
    Object.entries({
      customerName: job.customer,
      what: job.what,
      came: job.came,
      quantity: job.quantity > 1 ? String(job.quantity) : '',
      route: job.route,
      impregnation: job.impregnation,
      priority: job.priority,
      promised: job.promised ?? '',
      complaint: intake.complaint,
      condition: intake.condition,
      leadPosition: intake.leadPosition,
      boxPosition: intake.boxPosition,
      looseParts: intake.looseParts,
      missing: intake.missing,
      ...Object.fromEntries(Object.entries(job.nameplateTyped).map(([k, v]) => [`plate:${k}`, v])),
      ...Object.fromEntries(intake.fitted.map((f) => [`fitted:${f}`, 'yes'])),
    }).filter(([, v]) => v !== ''),
  );
}

/** Taking a motor in, and correcting what was taken in. */
export function IntakePage() {
  const { number } = useParams();
  const { data: job, error } = useJobQuery(number ?? '', { skip: !number });
  if (number && !job) return error ? <ProblemNote error={error} /> : <Quiet>Asking for {number} …</Quiet>;
  return <IntakeForm key={number ?? 'new'} {...(job ? { job } : {})} />;
}

function IntakeForm({ job }: { job?: JobDetail }) {
  const form = useTypedForm({
    key: job ? `intake:${job.number}` : 'intake:new',
    specs: ALL,
    start: job ? typedOf(job) : START,
  });
  const [take, taking] = useTakeJobMutation();
  const [change, changing] = useChangeJobMutation();
  const [addFile] = useAddFileMutation();
  const [photos, setPhotos] = useState<File[]>([]);
  const [tried, setTried] = useState(false);
  const navigate = useNavigate();
  const time = useTime();
  const t = form.typed;
  const values = form.reading.values;
  const spec = (name: string): FieldSpec => ALL.find((f) => f.name === name) as FieldSpec;
  const serial = t['plate:serial'] ?? '';
  const { data: visits } = useVisitsQuery(serial.trim(), { skip: serial.trim().length < 2 });
  const { data: customers } = useCustomersQuery(t['customerName'] ?? '', {
    skip: (t['customerName'] ?? '').length < 1,
  });
  const speed = values['plate:speedRpm'];
  const hertz = values['plate:frequencyHz'];
  const poles = typeof speed === 'number' && typeof hertz === 'number' ? polesFrom(speed, hertz) : undefined;
  const polesSaid =
    poles === undefined || t['plate:poles']
      ? undefined
      : poles.likely === 'not an induction motor speed'
        ? `no pole number fits this speed and frequency`
        : `${poles.poles} poles, slip ${poles.slipPercent.toFixed(1)} %`;
  const missing = VISIT_FIELDS.filter((f) => f.required && !t[f.name]);
  const problem = taking.error ?? changing.error;
  const earlier = (visits ?? []).filter((v) => v.number !== job?.number);

  const body = (): NewJob => ({
    customerName: t['customerName'] ?? '',
    what: t['what'] ?? '',
    route: (t['route'] ?? 'ac_random_rewind') as NewJob['route'],
    impregnation: (t['impregnation'] ?? 'dip') as NewJob['impregnation'],
    priority: (t['priority'] ?? 'ordinary') as NewJob['priority'],
    ...(t['promised'] ? { promised: t['promised'] } : {}),
    nameplate: Object.fromEntries(
      Object.entries(t)
        .filter(([k]) => k.startsWith('plate:'))
        .map(([k, v]) => [k.slice(6), v]),
    ),
    intake: {
      came: (t['came'] ?? 'whole motor') as Intake['came'],
      quantity: Number(values['quantity'] ?? 1),
      fitted: FITTED.filter((f) => t[`fitted:${f}`] === 'yes'),
      looseParts: t['looseParts'] ?? '',
      complaint: t['complaint'] ?? '',
      condition: t['condition'] ?? '',
      leadPosition: t['leadPosition'] ?? '',
      boxPosition: t['boxPosition'] ?? '',
      missing: t['missing'] ?? '',
    },
  });
  const submit = async (): Promise<void> => {
    setTried(true);
    if (missing.length > 0 || form.reading.problems.length > 0) return;
    const answer = job
      ? await change({ number: job.number, body: { ...body(), version: job.version } })
      : await take(body());
    if (!('data' in answer) || !answer.data) return;
    const number = answer.data.number;
    for (const photo of photos) await addFile({ number, name: photo.name, content: await shrunk(photo) });
    form.recorded(job ? t : START);
    void navigate(`/jobs/${number}`);
  };
  const place = useRef<HTMLFormElement>(null);
  useFirstField(place);
  const stale = problem && problemOf(problem).status === 409;
  return (
    <form
      ref={place}
      onKeyDown={enterMovesOn}
      onSubmit={(e) => {
        e.preventDefault();
        void submit();
      }}
      className="max-w-[1200px]"
    >
      <div className="flex items-baseline gap-4 mb-2">
        <h1 className="text-title font-semibold">{job ? `Correct intake of ${job.number}` : 'Take a motor in'}</h1>
        <DraftNote form={form} />
      </div>
      <div className="grid grid-cols-1 lg:grid-cols-[1fr_1.25fr] gap-8">
        <section aria-label="Visit" className="grid grid-cols-1 sm:grid-cols-2 gap-x-3">
          <div className="col-span-full">
            <Field form={form} spec={spec('customerName')} />
            {customers && customers.length > 0 && !customers.some((c) => c.name === t['customerName']) ? (
              <p className="-mt-4 mb-2 text-small">
                Known:{' '}
                {customers.slice(0, 4).map((c) => (
                  <button
                    key={c.id}
                    type="button"
                    className="text-accent underline mr-3"
                    onClick={() => form.set('customerName', c.name)}
                  >
                    {c.name}
                  </button>
                ))}
              </p>
            ) : null}
          </div>
          <Field form={form} spec={spec('what')} wide />
          <Field form={form} spec={spec('came')} />
          <Field form={form} spec={spec('quantity')} />
          <Field form={form} spec={spec('route')} />
          <Field form={form} spec={spec('impregnation')} />
          <Field form={form} spec={spec('priority')} />
          <Field form={form} spec={spec('promised')} />
          <Field form={form} spec={spec('complaint')} wide />
          <Field form={form} spec={spec('condition')} wide />
          <Field form={form} spec={spec('leadPosition')} />
          <Field form={form} spec={spec('boxPosition')} />
          <Field form={form} spec={spec('looseParts')} />
          <Field form={form} spec={spec('missing')} />
        </section>
        <section aria-label="Nameplate">
          <h2 className="font-semibold mb-1">Nameplate</h2>
          <div className="grid grid-cols-2 md:grid-cols-3 gap-x-3 border-2 border-edge p-3 bg-sheet">
            {plate.map((field) => (
              <Field
                key={field.name}
                form={form}
                spec={field}
                extra={field.name === 'plate:poles' ? polesSaid : undefined}
              />
            ))}
          </div>
          {earlier.length > 0 ? (
            <div className="mt-3 border-l-4 border-accent bg-accent-tint px-3 py-2">
              <p className="font-semibold">This serial number was here before:</p>
              {earlier.map((v) => (
                <Link key={v.number} to={`/jobs/${v.number}`} className="underline block">
                  {v.number} · {v.what} · {v.customer}, {time(v.takenInAt, 'day')}
                </Link>
              ))}
            </div>
          ) : null}
          <fieldset className="mt-3">
            <legend className="text-small font-semibold">Fitted</legend>
            <div className="flex flex-wrap gap-x-4 gap-y-1">
              {FITTED.map((f) => (
                <label key={f} className="flex items-center gap-1.5 min-h-9">
                  <input
                    type="checkbox"
                    className="size-4 accent-[var(--accent)]"
                    checked={t[`fitted:${f}`] === 'yes'}
                    onChange={(e) => form.set(`fitted:${f}`, e.target.checked ? 'yes' : '')}
                  />
                  {f}
                </label>
              ))}
            </div>
          </fieldset>
          <label className="block mt-2">
            <span className="block text-small font-semibold">Photographs</span>
            <input
              type="file"
              multiple
              accept="image/jpeg,image/png,image/webp,application/pdf"
              onChange={(e) => setPhotos([...(e.target.files ?? [])])}
              className="text-small"
            />
          </label>
          <div className="mt-4 space-y-2">
            {tried && missing.length > 0 ? (
              <ProblemNote>Still needed: {missing.map((m) => m.label).join(', ')}.</ProblemNote>
            ) : null}
            {tried && form.reading.problems.length > 0 ? (
              <ProblemNote>Cannot be read yet: {form.reading.problems.map((p) => p.label).join(', ')}.</ProblemNote>
            ) : null}
            <ProblemNote error={problem} />
            {stale && job ? (
              <Quiet>
                Someone changed this job while you typed. Reload to see theirs; yours is kept as your draft.
              </Quiet>
            ) : null}
            <div className="flex gap-2">
              <Button look="main" bench type="submit" disabled={taking.isLoading || changing.isLoading}>
                {job ? 'Record the change' : 'Take in'}
              </Button>
              {form.changed ? (
                <Button bench look="quiet" onClick={form.undo}>
                  {job ? 'Undo' : 'Clear'}
                </Button>
              ) : null}
            </div>
          </div>
        </section>
      </div>
    </form>
  );
}

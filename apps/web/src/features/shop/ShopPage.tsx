import { ALL_LIMITS, JOINT_KINDS, JOINT_ORDERS, parseNumber } from '@norther/core';
import type { ShopSettings } from '@norther/contracts';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { useBringMutation } from '../../app/api/job.ts';
import { useChangeShopMutation, useShopQuery } from '../../app/api/shop.ts';
import { useMay } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { PlainField, PlainSelect } from '../../ui/Field.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { Table } from '../../ui/Table.tsx';
import { Background } from './Background.tsx';
import { Gauges } from './Gauges.tsx';
import { Templates } from './Templates.tsx';
import { Otherwise } from './Otherwise.tsx';
import { Materials } from './Materials.tsx';
import { People } from './People.tsx';
import { Resins } from './Resins.tsx';
import { Routes } from './Routes.tsx';

/** People and roles, units and names, papers, resins, limits with the published value beside the shop's. */
export function ShopPage() {
  const { data, error } = useShopQuery();
  const mayChange = useMay('admin');
  if (error && !data) return <ProblemNote error={error} />;
  if (!data) return <Quiet>Asking for the shop …</Quiet>;
  return (
    <div className="space-y-6">
      <h1 className="text-title font-semibold">Shop</h1>
      {mayChange ? null : <Quiet>Only an admin changes these.</Quiet>}
      <div className="grid grid-cols-1 lg:grid-cols-[1fr_1.1fr] gap-8">
        <Settings key={data.version} version={data.version} settings={data.settings} mayChange={mayChange} />
        <div className="space-y-6">
          <People mayChange={mayChange} />
          {mayChange ? <BringIn /> : null}
          <p>
            <Link to="/instruments" className="text-accent underline">
              Instruments that send by themselves
            </Link>
          </p>
          <Background />
        </div>
      </div>
    </div>
  );
}

function Settings({ version, settings, mayChange }: { version: number; settings: ShopSettings; mayChange: boolean }) {
  const [v, setV] = useState(settings);
  const [limits, setLimits] = useState<Record<string, string>>(
    Object.fromEntries(Object.entries(settings.limits).map(([k, x]) => [k, String(x)])),
  );
  const [change, { isLoading, error }] = useChangeShopMutation();
  const [wrong, setWrong] = useState('');
  const unit = (key: keyof ShopSettings['units'], label: string, options: readonly (readonly [string, string])[]) => (
    <PlainSelect
      label={label}
      value={v.units[key]}
      onChange={(e) => setV({ ...v, units: { ...v.units, [key]: e.target.value } as ShopSettings['units'] })}
      options={options.map(([value, text]) => ({ value, label: text }))}
    />
  );
  const save = (): void => {
    const read: Record<string, number> = {};
    for (const [id, text] of Object.entries(limits)) {
      if (text.trim() === '') continue;
      const value = parseNumber(text);
      if (value === undefined || value <= 0) {
        setWrong(
          `${ALL_LIMITS.find((l) => l.id === id)?.title ?? id}: "${text}" is not a number above zero. Clear it to use the published value.`,
        );
        return;
      }
      read[id] = value;
    }
    setWrong('');
    void change({ version, settings: { ...v, limits: read } });
  };
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        save();
      }}
    >
      <fieldset disabled={!mayChange} className="space-y-4">
        <section>
          <h2 className="font-semibold border-b border-line mb-2">Name and papers</h2>
          <div className="grid grid-cols-1 sm:grid-cols-2 gap-3">
            <PlainField label="Shop name" value={v.name} onChange={(e) => setV({ ...v, name: e.target.value })} />
            <PlainField
              label="Address on papers"
              value={v.address}
              onChange={(e) => setV({ ...v, address: e.target.value })}
            />
            <PlainSelect
              label="Paper"
              value={v.paper}
              onChange={(e) => setV({ ...v, paper: e.target.value as ShopSettings['paper'] })}
              options={[
                { value: 'A4', label: 'A4' },
                { value: 'LETTER', label: 'Letter' },
              ]}
            />
            <div className="grid grid-cols-1 sm:grid-cols-2 gap-2">
              <PlainField
                label="Label width, mm"
                type="number"
                min={25}
                max={210}
                value={v.label.widthMm}
                onChange={(e) => setV({ ...v, label: { ...v.label, widthMm: Number(e.target.value) } })}
              />
              <PlainField
                label="height, mm"
                type="number"
                min={20}
                max={300}
                value={v.label.heightMm}
                onChange={(e) => setV({ ...v, label: { ...v.label, heightMm: Number(e.target.value) } })}
              />
            </div>
            <PlainSelect
              label="Dates as"
              value={v.dateFormat}
              onChange={(e) => setV({ ...v, dateFormat: e.target.value as ShopSettings['dateFormat'] })}
              options={['yyyy-MM-dd', 'dd.MM.yyyy', 'dd/MM/yyyy', 'MM/dd/yyyy'].map((x) => ({ value: x, label: x }))}
            />
            <PlainField
              label="Time zone"
              value={v.timeZone}
              onChange={(e) => setV({ ...v, timeZone: e.target.value })}
              hint="for example Europe/Oslo"
            />
          </div>
        </section>
        <section>
          <h2 className="font-semibold border-b border-line mb-2">Units and names: what a bare number means</h2>
          <div className="grid grid-cols-2 md:grid-cols-3 gap-3">
            {unit('wireSystem', 'A bare wire size is', [
              ['metric', 'mm'],
              ['awg', 'AWG'],
              ['swg', 'legacy gauge (SWG)'],
            ])}
            {unit('lengthUnit', 'Lengths', [
              ['mm', 'mm'],
              ['in', 'inch'],
            ])}
            {unit('temperatureUnit', 'Temperatures', [
              ['°C', '°C'],
              ['°F', '°F'],
            ])}
            {unit('powerUnit', 'Output', [
              ['kW', 'kW'],
              ['hp', 'hp'],
            ])}
            {unit('massUnit', 'Mass', [
              ['kg', 'kg'],
              ['lb', 'lb'],
            ])}
            <PlainSelect
              label="Leads are called"
              value={v.leadMarks}
              onChange={(e) => setV({ ...v, leadMarks: e.target.value as 'T' | 'U' })}
              options={[
                { value: 'U', label: 'U1 V1 W1' },
                { value: 'T', label: 'T1 T2 T3' },
              ]}
            />
            <PlainSelect
              label="Frames are"
              value={v.frameSchool}
              onChange={(e) => setV({ ...v, frameSchool: e.target.value as 'IEC' | 'NEMA' })}
              options={[
                { value: 'IEC', label: 'IEC (132M)' },
                { value: 'NEMA', label: 'NEMA (254T)' },
              ]}
            />
            <PlainSelect
              label="Joints are usually"
              value={v.jointKind}
              onChange={(e) => setV({ ...v, jointKind: e.target.value as ShopSettings['jointKind'] })}
              options={JOINT_KINDS.map((x) => ({ value: x, label: `by ${x}` }))}
            />
            <PlainSelect
              label="Joints are made"
              value={v.jointOrder}
              onChange={(e) => setV({ ...v, jointOrder: e.target.value as ShopSettings['jointOrder'] })}
              options={JOINT_ORDERS.map((x) => ({ value: x, label: x }))}
            />
            <PlainSelect
              label="Cure is met by"
              value={v.cureSchool}
              onChange={(e) => setV({ ...v, cureSchool: e.target.value as ShopSettings['cureSchool'] })}
              options={[
                { value: 'equivalent time', label: 'equivalent time' },
                { value: 'hold only', label: 'unbroken hold only' },
              ]}
            />
          </div>
        </section>
        <section>
          <h2 className="font-semibold border-b border-line mb-2">Resins, with their rated cure at part temperature</h2>
          <Resins resins={v.resins} onChange={(resins) => setV({ ...v, resins })} />
        </section>
        <section>
          <h2 className="font-semibold border-b border-line mb-2">What is measured with, and its calibration</h2>
          <Gauges
            gauges={v.gauges}
            taps={v.supplyTapsV}
            onGauges={(gauges) => setV({ ...v, gauges })}
            onTaps={(supplyTapsV) => setV({ ...v, supplyTapsV })}
          />
        </section>
        <section>
          <h2 className="font-semibold border-b border-line mb-2">Reports to the customer</h2>
          <Templates papers={v.papers} onPapers={(papers) => setV({ ...v, papers })} />
        </section>
        <section>
          <h2 className="font-semibold border-b border-line mb-2">Insulation and other material</h2>
          <Materials materials={v.materials} onChange={(materials) => setV({ ...v, materials })} />
        </section>
        <section>
          <h2 className="font-semibold border-b border-line mb-2">What counts when changed rewinds are ranked</h2>
          <div className="grid grid-cols-2 md:grid-cols-4 gap-2">
            {(
              [
                ['flux', 'Flux error'],
                ['loss', 'Copper loss'],
                ['fill', 'Slot fill'],
                ['ease', 'Few sizes and wires'],
              ] as const
            ).map(([key, label]) => (
              <PlainField
                key={key}
                label={label}
                type="number"
                min={0}
                max={100}
                step="0.5"
                value={v.redesignWeights[key]}
                onChange={(e) =>
                  setV({ ...v, redesignWeights: { ...v.redesignWeights, [key]: Number(e.target.value) } })
                }
              />
            ))}
          </div>
        </section>
        <section>
          <h2 className="font-semibold border-b border-line mb-2">Routes, for motors taken in from now on</h2>
          <Routes leaveOut={v.leaveOut} onChange={(leaveOut) => setV({ ...v, leaveOut })} />
        </section>
        <section>
          <h2 className="font-semibold border-b border-line mb-2">
            Limits: published, and the shop's own where it differs
          </h2>
          <Table
            label="Limits"
            height="max-h-96 border border-line"
            rows={ALL_LIMITS}
            keyOf={(l) => l.id}
            columns={[
              {
                id: 'limit',
                head: 'Limit',
                names: true,
                className: 'font-normal py-1',
                cell: (l) => (
                  <>
                    {l.title} <span className="text-soft">({l.group})</span>
                  </>
                ),
              },
              {
                id: 'published',
                head: 'Published',
                className: 'whitespace-nowrap',
                cell: (l) => (
                  <>
                    {l.published} {l.unit} <span className="text-soft">{l.source}</span>
                  </>
                ),
              },
              {
                id: 'here',
                head: 'Here',
                cell: (l) => (
                  <input
                    aria-label={`${l.title}, this shop`}
                    value={limits[l.id] ?? ''}
                    placeholder={String(l.published)}
                    onChange={(e) => setLimits({ ...limits, [l.id]: e.target.value })}
                    className="w-20 border border-edge rounded-sm px-1 min-h-8 bg-sheet"
                  />
                ),
              },
            ]}
          />
          <Otherwise />
        </section>
        {wrong ? <ProblemNote>{wrong}</ProblemNote> : null}
        <ProblemNote error={error} />
        {mayChange ? (
          <Button look="main" bench type="submit" disabled={isLoading}>
            Record the shop's settings
          </Button>
        ) : null}
      </fieldset>
    </form>
  );
}

function BringIn() {
  const [bring, { error, isLoading }] = useBringMutation();
  const [wrong, setWrong] = useState('');
  const navigate = useNavigate();
  return (
    <section>
      <h2 className="font-semibold border-b border-line mb-2">Bring a job in from another Norther</h2>
      <input
        type="file"
        aria-label="Job file"
        accept="application/json,.json"
        disabled={isLoading}
        onChange={(e) => {
          void e.target.files?.[0]?.text().then((text) => {
            try {
              setWrong('');
              void bring(JSON.parse(text)).then((r) =>
                'data' in r && r.data ? navigate(`/jobs/${r.data.number}`) : undefined,
              );
            } catch {
              setWrong('This file is not JSON; take the one that "JSON (all, with photographs)" gives.');
            }
          });
        }}
      />
      {wrong ? <ProblemNote>{wrong}</ProblemNote> : null}
      <ProblemNote error={error} />
    </section>
  );
}

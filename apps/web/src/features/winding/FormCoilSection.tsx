import {
  formatNumber,
  formBill,
  formCoilDrawing,
  formCoilInputOf,
  formCoilOf,
  type WindingRecord,
} from '@norther/core';
import { useMemo } from 'react';
import { useReadingDefaults } from '../../app/shop.ts';
import { DrawingView } from '../../drawing/DrawingView.tsx';
import { Quiet } from '../../ui/Problem.tsx';
import { Table } from '../../ui/Table.tsx';
import { Titled } from './Titled.tsx';

/** Strip coils: how they build up in the slot, drawn to scale, the sizes of a coil, and what they take. */
export function FormCoilSection({ record }: { record: WindingRecord }) {
  const inch = useReadingDefaults().lengthUnit === 'in';
  const made = useMemo(() => formCoilOf(record), [record]);
  const drawing = useMemo(() => {
    const input = formCoilInputOf(record);
    return input && formCoilDrawing(input);
  }, [record]);
  const bill = useMemo(() => formBill(record), [record]);
  if (!made || !drawing)
    return <Quiet>Strip, wall, turns, slot, bore, core length and span are needed before the coil can be drawn.</Quiet>;
  const length = (metres: number) =>
    inch ? `${formatNumber(metres / 0.0254, 4)} in` : `${formatNumber(metres * 1000, 4)} mm`;
  const sizes: [string, string][] = [
    ['Turn, over its tape', `${length(made.turnWidthM)} × ${length(made.turnHeightM)}`],
    ['Coil, over its wall', `${length(made.coilWidthM)} × ${length(made.coilHeightM)}`],
    ['Room left across / deep', `${length(made.widthRestM)} / ${length(made.depthRestM)}`],
    ['Mean diameter of the coils', length(made.meanDiameterM)],
    ['Arc of the span', length(made.tauM)],
    ['Slant of the ends', `${formatNumber(made.slantDeg, 4)}°`],
    ['Knuckle', length(made.knuckleM)],
    ['Mean turn', length(made.meanTurnM)],
    ['Projection beyond the core', length(made.projectionM)],
    ['Copper of a turn', `${formatNumber(made.areaM2 * 1e6, 5)} mm²`],
  ];
  return (
    <section
      className="grid grid-cols-1 lg:grid-cols-[minmax(0,1.3fr)_minmax(0,1fr)] gap-6 mt-4"
      aria-label="Strip coils"
    >
      <div>
        <Titled title="Strip coils in their slot" drawing={drawing} file="form-coil" />
        <DrawingView drawing={drawing} />
      </div>
      <div className="space-y-4">
        <Table
          label="Sizes of a coil"
          rows={sizes.map(([what, value]) => ({ what, value }))}
          keyOf={(row) => row.what}
          columns={[
            { id: 'what', head: 'Coil', cell: (row) => row.what, names: true },
            { id: 'value', head: 'Size', cell: (row) => row.value, align: 'right' },
          ]}
        />
        {bill ? (
          <Table
            label="Bill of the coils"
            rows={bill.lines}
            keyOf={(row) => row.what}
            columns={[
              { id: 'what', head: 'Takes', cell: (row) => row.what, names: true },
              {
                id: 'quantity',
                head: 'Quantity',
                cell: (row) => `${formatNumber(row.quantity, row.unit === 'pcs' ? 6 : 4)} ${row.unit}`,
                align: 'right',
              },
              { id: 'of', head: 'Made of', cell: (row) => row.of },
            ]}
          />
        ) : null}
      </div>
    </section>
  );
}

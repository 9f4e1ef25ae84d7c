import { insulationResistanceTest, surgeTest } from '@norther/core';
import { describe, expect, it } from 'vitest';
import { cellName, columnsOf, FROM_ABOVE, motorOf, pasted, rowOf, ROWS } from './inARow.ts';

const columns = ['motor', 'r1min', 'windingC', 'instrument'];

describe('motors in a row', () => {
  it('a motor is a job, or a piece of one', () => {
    expect(motorOf(' M-31 ')).toEqual({ number: 'M-31' });
    expect(motorOf('M-31/4')).toEqual({ number: 'M-31', unit: 4 });
    expect(motorOf('M-31 / 4')).toEqual({ number: 'M-31', unit: 4 });
    for (const none of ['', '  ', 'M 31', 'M-1/x', '/4']) expect(motorOf(none)).toBeUndefined();
  });
  it('a table from a spreadsheet is laid in from the cell it is put into', () => {
    expect(pasted('M-1\t850\nM-2\t900\r\n', { row: 0, column: 0 }, columns)).toEqual({
      '0.motor': 'M-1',
      '0.r1min': '850',
      '1.motor': 'M-2',
      '1.r1min': '900',
    });
    expect(pasted('21\tset 1\tmore', { row: 3, column: 2 }, columns)).toEqual({
      '3.windingC': '21',
      '3.instrument': 'set 1',
    });
    const many = pasted(Array.from({ length: 12 }, (_, i) => `m${i}`).join('\n'), { row: 1, column: 0 }, columns);
    expect(Object.keys(many)).toHaveLength(ROWS - 1);
    expect(many[cellName(ROWS - 1, 'motor')]).toBe('m8');
  });
  it('what is the same for motor after motor comes from the nearest row above; a reading never', () => {
    const typed = {
      '0.motor': 'a',
      '0.r1min': '850',
      '0.windingC': '21',
      '1.motor': 'b',
      '1.windingC': '23',
      '2.motor': 'c',
      '3.r1min': '5',
    };
    expect(rowOf(typed, 0, columns.slice(1), FROM_ABOVE)).toEqual({
      motor: { number: 'a' },
      typed: { r1min: '850', windingC: '21' },
    });
    expect(rowOf(typed, 2, columns.slice(1), FROM_ABOVE)).toEqual({
      motor: { number: 'c' },
      typed: { windingC: '23' },
    });
    expect(rowOf(typed, 3, columns.slice(1), FROM_ABOVE)).toBeUndefined();
  });
  it('the columns of a test are its fields that fit on a line', () => {
    expect(columnsOf(surgeTest).map((f) => f.name)).not.toContain('finding');
    expect(columnsOf(insulationResistanceTest).map((f) => f.name)).toContain('r1min');
  });
});
